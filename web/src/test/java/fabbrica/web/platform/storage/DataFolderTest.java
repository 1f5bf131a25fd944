package fabbrica.web.platform.storage;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.attribute.PosixFilePermissions;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.springframework.mock.env.MockEnvironment;

class DataFolderTest {

    @TempDir
    private Path parent;

    @Test
    void a_folder_that_is_not_a_demos_is_never_emptied() throws IOException {
        Path folder = Files.createDirectory(parent.resolve("lab"));
        Files.writeString(folder.resolve("precious.txt"), "keep me");
        assertThatThrownBy(() -> DataFolder.prepare(demo(folder))).hasMessageContaining("nothing in it was touched");
        assertThat(folder.resolve("precious.txt")).exists();
    }

    @Test
    void a_second_server_is_refused_and_a_running_demo_is_not_wiped() throws IOException {
        Path folder = parent.resolve("demo");
        DataFolder.prepare(demo(folder));
        Files.writeString(folder.resolve("fabbrica.db"), "the first server's");
        assertThatThrownBy(() -> DataFolder.prepare(demo(folder))).hasMessageContaining("Another Fabbrica works with the folder");
        assertThat(folder.resolve("fabbrica.db")).hasContent("the first server's");
    }

    @Test
    void what_an_earlier_demo_left_is_gone_at_the_next_start() throws IOException {
        Path folder = Files.createDirectory(parent.resolve("demo"));
        Files.writeString(folder.resolve(".demo"), "");
        Files.writeString(Files.createDirectory(folder.resolve("files")).resolve("old"), "yesterday's");
        DataFolder.prepare(demo(folder));
        assertThat(folder.resolve("files")).doesNotExist();
    }

    @Test
    void only_its_owner_may_look_into_it() throws IOException {
        Path folder = parent.resolve("lab");
        DataFolder.prepare(new MockEnvironment().withProperty("fabbrica.data", folder.toString()));
        assertThat(PosixFilePermissions.toString(Files.getPosixFilePermissions(folder))).isEqualTo("rwx------");
    }

    private static MockEnvironment demo(Path folder) {
        return new MockEnvironment().withProperty("fabbrica.data", folder.toString()).withProperty("fabbrica.demo", "true");
    }
}
