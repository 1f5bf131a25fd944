package fabbrica.web.upkeep;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import fabbrica.web.FabbricaApplication;
import fabbrica.web.platform.storage.DataFolder;
import fabbrica.web.platform.storage.FileReferenceRepository;
import fabbrica.web.platform.storage.FolderRefused;
import fabbrica.web.platform.storage.Sha256;
import java.io.IOException;
import java.io.PrintStream;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.stream.Stream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.springframework.context.ConfigurableApplicationContext;
import org.springframework.util.FileSystemUtils;

class UpgradeTest {

    private static final String FORMAT = "select max(cast(version as integer)) from flyway_schema_history";

    @TempDir
    private Path folder;

    @Test
    void an_earlier_lab_is_backed_up_and_brought_up_to_date_and_can_go_back() throws IOException {
        Path lab = Labs.make(folder.resolve("lab"), "Dock", 2, "7");
        try (ConfigurableApplicationContext application = start(lab)) {
            assertThat(application.getBean(FileReferenceRepository.class).all()).hasSize(2);
        }
        assertThat(Integer.parseInt(Labs.ask(lab, FORMAT))).isGreaterThan(7);
        Path kept = backups(lab).getFirst();
        assertThat(kept.getFileName().toString()).startsWith("before-upgrade-of-format-7-");
        assertThat(DataCheck.of(kept).whole()).isTrue();
        Path moved = moved(lab);
        assertThat(Upkeep.run(new String[] {"restore", kept.toString()}, moved, new PrintStream(PrintStream.nullOutputStream()), System.err))
                .isZero();
        assertThat(Labs.ask(moved, FORMAT)).isEqualTo("7");
        assertThat(Labs.name(moved)).isEqualTo("Dock");
        assertThat(DataCheck.of(moved).whole()).isTrue();
    }

    @Test
    void a_lab_that_is_new_or_up_to_date_needs_no_backup() throws IOException {
        Path fresh = folder.resolve("fresh");
        start(fresh).close();
        Path again = moved(fresh);
        start(again).close();
        assertThat(backups(again)).isEmpty();
    }

    @Test
    void data_of_a_later_version_are_refused_and_not_touched() throws IOException {
        Path lab = Labs.make(folder.resolve("lab"), "Dock", 1);
        Labs.change(lab, """
                insert into flyway_schema_history (installed_rank, version, description, type, script, checksum, installed_by, installed_on,
                    execution_time, success) values (1000, '99.1', 'later', 'SQL', 'V99_1__later.sql', 1, '', '2030-01-01 00:00:00.000', 1, 1)""");
        String before = Sha256.of(DataFolder.database(lab));
        assertThatThrownBy(() -> start(lab)).rootCause().isInstanceOf(FolderRefused.class)
                .hasMessageContaining("of a later Fabbrica (format 99.1)").hasMessageContaining("./fabbrica restore");
        assertThat(Sha256.of(DataFolder.database(lab))).isEqualTo(before);
        assertThat(backups(lab)).isEmpty();
    }

    @Test
    void without_a_backup_nothing_is_upgraded() throws IOException {
        Path lab = Labs.make(folder.resolve("lab"), "Dock", 1, "7");
        Files.writeString(DataFolder.backups(lab), "a file where the folder of backups should be");
        assertThatThrownBy(() -> start(lab)).rootCause().isInstanceOf(FolderRefused.class)
                .hasMessageContaining("no backup could be made before the upgrade; nothing was changed");
        assertThat(Labs.ask(lab, FORMAT)).isEqualTo("7");
    }

    private static ConfigurableApplicationContext start(Path lab) {
        return FabbricaApplication.application().run("--server.port=0", "--fabbrica.data=" + lab);
    }

    /** Elsewhere, since this process has the lock of the folder until it ends. */
    private Path moved(Path lab) throws IOException {
        Path to = folder.resolve(lab.getFileName() + "-moved");
        FileSystemUtils.copyRecursively(lab, to);
        return to;
    }

    private static List<Path> backups(Path lab) throws IOException {
        if (!Files.exists(DataFolder.backups(lab))) {
            return List.of();
        }
        try (Stream<Path> all = Files.list(DataFolder.backups(lab))) {
            return all.toList();
        }
    }
}
