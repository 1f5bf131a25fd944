package fabbrica.web.platform.storage;

import static org.assertj.core.api.Assertions.assertThat;

import com.zaxxer.hikari.HikariDataSource;
import fabbrica.web.SetClock;
import java.nio.file.Path;
import java.time.Duration;
import java.util.Set;
import java.util.concurrent.CompletableFuture;
import java.util.function.Supplier;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.springframework.transaction.TransactionDefinition;
import org.springframework.transaction.interceptor.DefaultTransactionAttribute;
import org.springframework.transaction.support.TransactionSynchronization;
import org.springframework.transaction.support.TransactionSynchronizationManager;
import org.springframework.transaction.support.TransactionTemplate;

class SnapshotsTest {

    @TempDir
    private Path folder;

    private final HikariDataSource connections = new HikariDataSource();
    private final WriterTransactions transactions = new WriterTransactions(connections);
    private final SetClock clock = new SetClock();
    private int reads;
    private Supplier<Integer> snapshot = () -> 0;

    @AfterEach
    void close() {
        connections.close();
    }

    @BeforeEach
    void take() {
        connections.setJdbcUrl("jdbc:sqlite:" + folder.resolve("lab.db"));
        snapshot = new Snapshots(transactions, clock).of(() -> ++reads);
        assertThat(snapshot.get()).isEqualTo(1);
    }

    private void write(TransactionDefinition how) {
        transactions.commit(transactions.getTransaction(how));
    }

    @Test
    void what_everybody_reads_is_read_once_until_something_is_kept() {
        assertThat(snapshot.get()).isEqualTo(1);
        write(TransactionDefinition.withDefaults());
        assertThat(snapshot.get()).isEqualTo(2);
        assertThat(snapshot.get()).isEqualTo(2);
    }

    @Test
    void and_for_no_longer_than_the_minute_it_was_read_in() {
        clock.pass(Duration.ofSeconds(59));
        assertThat(snapshot.get()).isEqualTo(1);
        clock.pass(Duration.ofSeconds(1));
        assertThat(snapshot.get()).isEqualTo(2);
        clock.pass(Duration.ofMinutes(-1));
        assertThat(snapshot.get()).as("a clock that was put back").isEqualTo(3);
    }

    @Test
    void what_was_undone_or_is_aside_changes_nothing() {
        new TransactionTemplate(transactions).executeWithoutResult(status -> status.setRollbackOnly());
        DefaultTransactionAttribute aside = new DefaultTransactionAttribute();
        aside.setLabels(Set.of(WriterTransactions.ASIDE));
        write(aside);
        assertThat(snapshot.get()).isEqualTo(1);
    }

    @Test
    void what_is_read_while_a_transaction_is_being_finished_is_read_again() {
        new TransactionTemplate(transactions).executeWithoutResult(status -> TransactionSynchronizationManager.registerSynchronization(new TransactionSynchronization() {
            @Override
            public void afterCompletion(int how) {
                assertThat(CompletableFuture.supplyAsync(snapshot).join()).isEqualTo(2);
            }
        }));
        assertThat(snapshot.get()).isEqualTo(3);
        assertThat(snapshot.get()).isEqualTo(3);
    }

    @Test
    void whoever_writes_reads_what_they_wrote_and_nobody_else_does_before_it_is_kept() {
        new TransactionTemplate(transactions).executeWithoutResult(status -> {
            assertThat(snapshot.get()).isEqualTo(2);
            assertThat(snapshot.get()).isEqualTo(3);
            status.setRollbackOnly();
        });
        assertThat(snapshot.get()).isEqualTo(1);
        assertThat(reads).isEqualTo(3);
    }
}
