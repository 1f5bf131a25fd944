package fabbrica.web.platform.storage;

import com.zaxxer.hikari.HikariDataSource;
import java.sql.Connection;
import java.sql.SQLException;
import java.sql.Statement;
import java.time.Duration;
import java.util.concurrent.TimeUnit;
import java.util.concurrent.atomic.AtomicLong;
import java.util.concurrent.locks.ReentrantLock;
import org.jspecify.annotations.Nullable;
import org.springframework.jdbc.datasource.ConnectionHolder;
import org.springframework.stereotype.Component;
import org.springframework.transaction.TransactionDefinition;
import org.springframework.transaction.interceptor.TransactionAttribute;
import org.springframework.transaction.support.AbstractPlatformTransactionManager;
import org.springframework.transaction.support.DefaultTransactionStatus;
import org.springframework.transaction.support.ResourceTransactionManager;
import org.springframework.transaction.support.SmartTransactionObject;
import org.springframework.transaction.support.TransactionSynchronizationManager;

/**
 * Transactions that write. Writers of this server wait for each other here, before they take a connection, so that
 * readers always find one; then for other processes, by beginning again within the same bound. Begin, commit and rollback
 * are said to SQLite in so many words: the driver's own way begins the next transaction inside the commit of this one and
 * believes that it has begun even when it has not, so that a busy database reports as failed what is saved, and then
 * saves each statement by itself. Outside of a transaction connections only read ({@code query_only}).
 */
@Component("transactionManager")
public class WriterTransactions extends AbstractPlatformTransactionManager implements ResourceTransactionManager {

    /** Label of a transaction that changes nothing of which there are {@link Snapshots}. */
    public static final String ASIDE = "aside";
    /** As long as somebody at a page waits without doubting it (common practice, no source). */
    private static final Duration PATIENCE = Duration.ofSeconds(10);

    private final transient HikariDataSource connections;
    private final transient ReentrantLock writing = new ReentrantLock(true);
    private final transient AtomicLong kept = new AtomicLong();

    WriterTransactions(HikariDataSource connections) {
        this.connections = connections;
    }

    /** A connection on which a transaction is open. */
    private static final class Open extends ConnectionHolder {

        Open(Connection connection) {
            super(connection);
            setSynchronizedWithTransaction(true);
        }
    }

    private static final class Transaction implements SmartTransactionObject {

        private @Nullable Open open;
        private boolean aside;
        private boolean kept;

        private Transaction(@Nullable Open open) {
            this.open = open;
        }

        private Open open() {
            if (open == null) {
                throw new IllegalStateException("not begun");
            }
            return open;
        }

        @Override
        public boolean isRollbackOnly() {
            return open != null && open.isRollbackOnly();
        }
    }

    /** Another number whenever a transaction was kept that was not {@link #ASIDE}. */
    long kept() {
        return kept.get();
    }

    @Override
    public Object getResourceFactory() {
        return connections;
    }

    @Override
    protected Object doGetTransaction() {
        return new Transaction(TransactionSynchronizationManager.getResource(connections) instanceof Open open ? open : null);
    }

    @Override
    protected boolean isExistingTransaction(Object transaction) {
        return ((Transaction) transaction).open != null;
    }

    /** @throws StorageException when others write for longer than anybody waits */
    @Override
    protected void doBegin(Object transaction, TransactionDefinition definition) {
        long until = System.nanoTime() + PATIENCE.toNanos();
        await(until);
        try {
            Open open = new Open(begin(until));
            TransactionSynchronizationManager.bindResource(connections, open);
            ((Transaction) transaction).open = open;
            ((Transaction) transaction).aside = definition instanceof TransactionAttribute attribute && attribute.getLabels().contains(ASIDE);
        } catch (RuntimeException | Error e) {
            writing.unlock();
            throw e;
        }
    }

    @Override
    protected void doCommit(DefaultTransactionStatus status) {
        Connection connection = connection(status);
        try {
            execute(connection, "commit");
            ((Transaction) status.getTransaction()).kept = true;
            changed((Transaction) status.getTransaction());
        } catch (SQLException e) {
            rollBack(connection);
            throw new StorageException(StorageFault.of(e), e);
        }
    }

    @Override
    protected void doRollback(DefaultTransactionStatus status) {
        rollBack(connection(status));
    }

    @Override
    protected void doSetRollbackOnly(DefaultTransactionStatus status) {
        ((Transaction) status.getTransaction()).open().setRollbackOnly();
    }

    @Override
    protected void doCleanupAfterCompletion(Object transaction) {
        Open open = ((Transaction) transaction).open();
        TransactionSynchronizationManager.unbindResource(connections);
        Connection connection = open.getConnection();
        try {
            execute(connection, "pragma query_only = on");
        } catch (SQLException e) {
            connections.evictConnection(connection);
        }
        release(connection);
        open.clear();
        writing.unlock();
        changed((Transaction) transaction);
    }

    /** Once when it can be read, and again when all that keeps something in mind has been told: what was read between may be half of each. */
    private void changed(Transaction transaction) {
        if (transaction.kept && !transaction.aside) {
            kept.incrementAndGet();
        }
    }

    private void await(long until) {
        try {
            if (!writing.tryLock(until - System.nanoTime(), TimeUnit.NANOSECONDS)) {
                throw new StorageException(StorageFault.BUSY, null);
            }
        } catch (InterruptedException e) {
            Thread.currentThread().interrupt();
            throw new StorageException(StorageFault.BUSY, e);
        }
    }

    private Connection begin(long until) {
        while (true) {
            Connection connection = null;
            try {
                connection = connections.getConnection();
                execute(connection, "pragma query_only = off");
                execute(connection, "begin immediate");
                return connection;
            } catch (SQLException e) {
                if (connection != null) {
                    connections.evictConnection(connection);
                    release(connection);
                }
                StorageFault fault = StorageFault.of(e);
                if (fault != StorageFault.BUSY || System.nanoTime() > until) {
                    throw new StorageException(fault, e);
                }
            }
        }
    }

    /** A connection that cannot even do that is closed, which undoes what was not committed. */
    private void rollBack(Connection connection) {
        try {
            execute(connection, "rollback");
        } catch (SQLException e) {
            connections.evictConnection(connection);
        }
    }

    private void release(Connection connection) {
        try {
            connection.close();
        } catch (SQLException e) {
            connections.evictConnection(connection);
        }
    }

    private static Connection connection(DefaultTransactionStatus status) {
        return ((Transaction) status.getTransaction()).open().getConnection();
    }

    private static void execute(Connection connection, String sql) throws SQLException {
        try (Statement statement = connection.createStatement()) {
            statement.execute(sql);
        }
    }
}
