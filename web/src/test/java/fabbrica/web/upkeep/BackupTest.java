package fabbrica.web.upkeep;

import static org.assertj.core.api.Assertions.assertThat;

import fabbrica.core.mesh.model.Shapes;
import fabbrica.web.DemoLabTest;
import fabbrica.web.Steps;
import fabbrica.web.platform.storage.DataFolder;
import java.nio.file.Path;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.concurrent.Future;
import java.util.concurrent.atomic.AtomicBoolean;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.springframework.beans.factory.annotation.Autowired;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.jdbc.datasource.DriverManagerDataSource;

/** Backups of a lab in which people work. */
@DemoLabTest
class BackupTest {

    @Autowired
    private Steps steps;

    @Test
    void backups_made_while_files_come_in_are_whole_each_with_the_lab_of_its_moment(@TempDir Path folder) throws Exception {
        AtomicBoolean enough = new AtomicBoolean();
        try (ExecutorService counter = Executors.newSingleThreadExecutor()) {
            Future<Integer> work = counter.submit(() -> {
                int taken = 0;
                while (!enough.get()) {
                    steps.accepted(Shapes.box(10, 10, 50 + ++taken / 100.0), 1);
                }
                return taken;
            });
            long tickets = 0;
            for (int i = 0; i < 4; i++) {
                Path backup = folder.resolve("backup" + i);
                DataCheck check = Backup.write(Path.of("target/demo-lab"), backup, i == 0 ? null : folder.resolve("backup" + (i - 1)));
                assertThat(check.whole()).isTrue();
                JdbcClient kept = JdbcClient.create(new DriverManagerDataSource("jdbc:sqlite:" + DataFolder.database(backup)));
                long now = kept.sql("select count(*) from ticket").query(Long.class).single();
                assertThat(now).isGreaterThanOrEqualTo(tickets);
                assertThat(kept.sql("select count(*) from ticket t where not exists (select 1 from event e where e.ticket_id = t.id)")
                        .query(Long.class).single()).as("tickets without the step that opened them").isZero();
                tickets = now;
            }
            enough.set(true);
            assertThat(work.get()).isPositive();
        }
    }
}
