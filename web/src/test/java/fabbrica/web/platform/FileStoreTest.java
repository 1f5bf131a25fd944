package fabbrica.web.platform;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.io.ByteArrayInputStream;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.stream.Stream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.springframework.mock.env.MockEnvironment;

class FileStoreTest {

    @TempDir
    private Path folder;

    @Test
    void a_file_is_kept_once_under_the_hash_of_its_content() throws IOException {
        FileStore store = store();
        FileStore.Stored first = store.store(content("abc")), second = store.store(content("abc"));
        // FIPS 180-4, example B.1.
        assertThat(first.sha256()).isEqualTo("ba7816bf8f01cfea414140de5dae2223b00361a396177a9cb410ff61f20015ad");
        assertThat(second).isEqualTo(first);
        assertThat(names()).containsExactly(first.sha256());
        assertThat(store.source("a.stl", first.sha256()).length()).isEqualTo(3);
    }

    @Test
    void what_was_not_finished_leaves_nothing() throws IOException {
        FileStore store = store();
        try (FileStore.Writing writing = store.write()) {
            writing.stream().write(new byte[1000]);
        }
        assertThat(names()).isEmpty();
    }

    @Test
    void what_a_crash_left_half_written_is_swept_at_the_next_start() throws IOException {
        store().write().stream().write(new byte[1000]);
        assertThat(names()).hasSize(1);
        store();
        assertThat(names()).isEmpty();
    }

    @Test
    void only_a_hash_names_a_file() {
        assertThatThrownBy(() -> store().path("../../etc/passwd")).isInstanceOf(IllegalArgumentException.class);
    }

    @Test
    void a_folder_that_is_not_a_demos_is_never_emptied() throws IOException {
        Files.writeString(folder.resolve("precious.txt"), "keep me");
        assertThatThrownBy(() -> DataFolder.prepare(new MockEnvironment()
                .withProperty("fabbrica.data", folder.toString()).withProperty("fabbrica.demo", "true")))
                .hasMessageContaining("nothing in it was touched");
        assertThat(folder.resolve("precious.txt")).exists();
    }

    private FileStore store() {
        return new FileStore(new MockEnvironment().withProperty("fabbrica.data", folder.toString()));
    }

    private java.util.List<String> names() throws IOException {
        try (Stream<Path> files = Files.list(folder.resolve("files"))) {
            return files.map(file -> file.getFileName().toString()).toList();
        }
    }

    private static ByteArrayInputStream content(String text) {
        return new ByteArrayInputStream(text.getBytes(StandardCharsets.US_ASCII));
    }
}
