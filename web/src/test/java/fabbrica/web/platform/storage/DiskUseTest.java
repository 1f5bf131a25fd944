package fabbrica.web.platform.storage;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.withinPercentage;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

class DiskUseTest {

    @Test
    void files_shared_between_backups_count_once(@TempDir Path lab) throws IOException {
        Files.write(lab.resolve("fabbrica.db"), new byte[1000]);
        Files.write(Files.createDirectory(DataFolder.files(lab)).resolve("a"), new byte[500]);
        Path first = Files.createDirectories(DataFolder.backups(lab).resolve("1")), second = Files.createDirectories(DataFolder.backups(lab).resolve("2"));
        Files.write(first.resolve("a"), new byte[500]);
        Files.createLink(second.resolve("a"), first.resolve("a"));
        Files.write(second.resolve("b"), new byte[70]);
        DiskUse use = DiskUse.of(lab);
        assertThat(use.files()).isEqualTo(500);
        assertThat(use.backups()).isEqualTo(570);
        assertThat(use.rest()).isEqualTo(1000);
        assertThat(use.all()).isEqualTo(2070);
        assertThat(use.free()).isCloseTo(Files.getFileStore(lab).getUsableSpace(), withinPercentage(10));
    }

    @Test
    void it_is_tight_when_another_backup_would_find_no_room() {
        long gb = 1L << 30;
        assertThat(new DiskUse(6 * gb, 20 * gb, gb, 8 * gb).isTight()).isFalse();
        assertThat(new DiskUse(6 * gb, 20 * gb, gb, 6 * gb).isTight()).isTrue();
        assertThat(new DiskUse(0, 0, 0, gb / 2).isTight()).isTrue();
    }

    @Test
    void there_is_room_for_a_little_and_not_for_everything(@TempDir Path lab) throws IOException {
        assertThat(DiskUse.hasRoom(lab, 1)).isTrue();
        assertThat(DiskUse.hasRoom(lab, Long.MAX_VALUE)).isFalse();
    }

    @Test
    void a_lab_without_files_takes_nothing(@TempDir Path lab) throws IOException {
        assertThat(DiskUse.of(lab).all()).isZero();
    }
}
