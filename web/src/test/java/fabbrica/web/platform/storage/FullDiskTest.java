package fabbrica.web.platform.storage;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.catchThrowableOfType;

import fabbrica.web.FabbricaApplication;
import fabbrica.web.account.Member;
import fabbrica.web.account.Members;
import java.io.IOException;
import java.nio.file.AccessDeniedException;
import java.nio.file.FileSystemException;
import java.nio.file.Path;
import java.util.Set;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.springframework.context.ConfigurableApplicationContext;
import org.springframework.jdbc.core.simple.JdbcClient;

class FullDiskTest {

    /** As if the disk had no more room: SQLite itself refuses further pages (sqlite.org/pragma.html#pragma_max_page_count). */
    private static final String URL = "jdbc:sqlite:%s?journal_mode=WAL&foreign_keys=on&busy_timeout=2000&max_page_count=%d";

    @Test
    void a_full_disk_refuses_truly_and_what_was_kept_before_can_be_read(@TempDir Path folder) {
        String note = "n".repeat(3500);
        int kept = 0;
        try (ConfigurableApplicationContext lab = start(folder, 150)) {
            Members members = lab.getBean(Members.class);
            StorageException refused = null;
            while (refused == null) {
                Member member = new Member(0, "Member " + kept, false, "", note, "", Set.of());
                refused = catchThrowableOfType(StorageException.class, () -> members.add(member, "mira"));
                kept += refused == null ? 1 : 0;
            }
            assertThat(refused.fault()).isEqualTo(StorageFault.FULL);
            assertThat(refused.sentence()).contains("The disk of the lab's computer is full.");
            assertThat(catchThrowableOfType(StorageException.class,
                    () -> members.add(new Member(0, "One more", false, "", note, "", Set.of()), "mira"))).isNotNull();
            assertThat(count(lab)).isEqualTo(kept).isPositive();
        }
    }

    @Test
    void a_full_or_closed_folder_of_files_is_told_by_its_words() {
        assertThat(StorageFault.of(new IOException("No space left on device"))).isEqualTo(StorageFault.FULL);
        assertThat(StorageFault.of(new FileSystemException("in.part", null, "Read-only file system"))).isEqualTo(StorageFault.READ_ONLY);
        assertThat(StorageFault.of(new AccessDeniedException("in.part"))).isEqualTo(StorageFault.READ_ONLY);
        assertThat(StorageFault.of(new IOException("Broken pipe"))).isEqualTo(StorageFault.OTHER);
    }

    private static ConfigurableApplicationContext start(Path folder, int pages) {
        return FabbricaApplication.application().run("--server.port=0", "--fabbrica.data=" + folder,
                "--spring.datasource.url=" + URL.formatted(folder.resolve("fabbrica.db"), pages));
    }

    private static long count(ConfigurableApplicationContext lab) {
        return lab.getBean(JdbcClient.class).sql("select count(*) from member").query(Long.class).single();
    }
}
