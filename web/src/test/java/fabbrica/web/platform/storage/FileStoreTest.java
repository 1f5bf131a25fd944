package fabbrica.web.platform.storage;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.mockito.ArgumentMatchers.any;
import static org.mockito.Mockito.mock;
import static org.mockito.Mockito.when;

import java.io.ByteArrayInputStream;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.HashSet;
import java.util.List;
import java.util.Set;
import java.util.stream.Stream;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.springframework.mock.env.MockEnvironment;

class FileStoreTest {

    /** FIPS 180-4, example B.1. */
    private static final String HASH_OF_ABC = "ba7816bf8f01cfea414140de5dae2223b00361a396177a9cb410ff61f20015ad";

    @TempDir
    private Path folder;

    private final FileReferenceRepository references = mock(FileReferenceRepository.class);
    private final Set<String> named = new HashSet<>();

    @BeforeEach
    void references() {
        when(references.all()).thenReturn(named);
        when(references.names(any())).thenAnswer(call -> named.contains(call.<String>getArgument(0)));
    }

    @Test
    void a_file_is_kept_once_under_the_hash_of_its_content() throws IOException {
        FileStore store = store();
        try (FileStore.Batch batch = store.batch()) {
            FileStore.Stored first = batch.store(content("abc")), second = batch.store(content("abc"));
            assertThat(first.sha256()).isEqualTo(HASH_OF_ABC);
            assertThat(second).isEqualTo(first);
            named.add(HASH_OF_ABC);
        }
        assertThat(names()).containsExactly(HASH_OF_ABC);
        assertThat(store.source("a.stl", HASH_OF_ABC).length()).isEqualTo(3);
    }

    @Test
    void what_was_not_finished_leaves_nothing() throws IOException {
        try (FileStore.Batch batch = store().batch()) {
            batch.write().stream().write(new byte[1000]);
        }
        assertThat(names()).isEmpty();
    }

    @Test
    void what_nobody_came_to_name_goes_and_what_was_named_before_stays() throws IOException {
        FileStore store = store();
        try (FileStore.Batch batch = store.batch()) {
            batch.store(content("abc"));
            batch.store(content("refused"));
            named.add(HASH_OF_ABC);
        }
        assertThat(names()).containsExactly(HASH_OF_ABC);
        try (FileStore.Batch refused = store.batch()) {
            refused.store(content("abc"));
        }
        assertThat(names()).containsExactly(HASH_OF_ABC);
    }

    @Test
    void what_one_upload_drops_another_of_the_same_bytes_still_holds() throws IOException {
        FileStore store = store();
        FileStore.Batch accepted = store.batch();
        accepted.store(content("abc"));
        try (FileStore.Batch refused = store.batch()) {
            refused.store(content("abc"));
        }
        store.sweep();
        assertThat(names()).containsExactly(HASH_OF_ABC);
        named.add(HASH_OF_ABC);
        accepted.close();
        assertThat(names()).containsExactly(HASH_OF_ABC);
    }

    @Test
    void what_a_crash_left_behind_is_swept_at_the_next_start() throws IOException {
        FileStore.Batch crashed = store().batch();
        crashed.write().stream().write(new byte[1000]);
        crashed.store(content("nobody names this"));
        crashed.store(content("abc"));
        assertThat(names()).hasSize(3);
        named.add(HASH_OF_ABC);
        store();
        assertThat(names()).containsExactly(HASH_OF_ABC);
    }

    @Test
    void a_database_that_names_nothing_is_not_trusted_to_know() throws IOException {
        store().batch().store(content("abc"));
        store();
        assertThat(names()).containsExactly(HASH_OF_ABC);
    }

    @Test
    void only_a_hash_names_a_file() {
        assertThatThrownBy(() -> store().path("../../etc/passwd")).isInstanceOf(IllegalArgumentException.class);
    }

    private FileStore store() {
        return new FileStore(new MockEnvironment().withProperty("fabbrica.data", folder.toString()), references);
    }

    private List<String> names() throws IOException {
        try (Stream<Path> files = Files.list(folder.resolve("files"))) {
            return files.map(file -> file.getFileName().toString()).toList();
        }
    }

    private static ByteArrayInputStream content(String text) {
        return new ByteArrayInputStream(text.getBytes(StandardCharsets.US_ASCII));
    }
}
