package fabbrica.web.upkeep;

import fabbrica.web.account.Accounts;
import fabbrica.web.platform.storage.FileReferenceRepository;
import java.nio.file.Path;
import java.sql.Connection;
import java.sql.DriverManager;
import java.sql.SQLException;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.Set;
import java.util.function.Supplier;
import org.springframework.dao.DataAccessException;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.jdbc.datasource.SingleConnectionDataSource;
import org.sqlite.SQLiteConnection;

/** The SQL of a lab's database as it is seen from outside of its server. */
final class DatabaseRepository implements AutoCloseable {

    private static final int ALL_PAGES = -1;

    private final Connection connection;
    private final JdbcClient jdbc;

    /** @throws UpkeepException when there is no database that can be opened; so with all that is done with it */
    DatabaseRepository(Path database) {
        try {
            this.connection = DriverManager.getConnection("jdbc:sqlite:file:%s?mode=rw&busy_timeout=10000".formatted(
                    database.toUri().getRawPath()));
        } catch (SQLException e) {
            throw new UpkeepException("The database %s cannot be opened: %s".formatted(database, e.getMessage()));
        }
        this.jdbc = JdbcClient.create(new SingleConnectionDataSource(connection, true));
    }

    /** Copies the database as it is at one moment, while others write, by SQLite's online backup (sqlite.org/backup.html). */
    void copyTo(Path file) {
        try {
            connection.unwrap(SQLiteConnection.class).getDatabase().backup("main", file.toString(), null, 0, 0, ALL_PAGES);
        } catch (SQLException e) {
            throw new UpkeepException("The database cannot be copied: " + e.getMessage());
        }
    }

    /** Writes the log into the database, which then stands by itself; only when nobody else has it open. */
    void endLog() {
        asked(() -> jdbc.sql("pragma journal_mode = delete").query(String.class).single());
    }

    /** What is wrong with it in itself; empty when it is sound. */
    List<String> faults() {
        return asked(() -> {
            List<String> faults = new ArrayList<>(jdbc.sql("pragma integrity_check").query(String.class).list());
            faults.remove("ok");
            jdbc.sql("pragma foreign_key_check").query((row, n) -> "a row of %s names a row of %s that is not there".formatted(
                    row.getString("table"), row.getString("parent"))).list().forEach(faults::add);
            return faults;
        });
    }

    /** Numbers of the members who were forgotten; earlier versions forgot nobody. */
    Set<Long> forgotten() {
        return asked(() -> jdbc.sql("select count(*) from pragma_table_info('member') where name = 'forgotten_at'").query(Integer.class)
                .single() == 0 ? Set.of() : jdbc.sql("select id from member where forgotten_at is not null").query(Long.class).set());
    }

    /** The hashes of all files it names. */
    Set<String> files() {
        return asked(() -> new FileReferenceRepository(jdbc).all());
    }

    /** Takes the password of an open account in favour of a code; tells whether there is one of that name. */
    boolean resetPassword(String username, String codeHash, Instant until) {
        return asked(() -> jdbc.sql("""
                update account set password = ?, code = ?, code_until = ? where username = ? collate nocase and not closed""")
                .params(Accounts.NONE, codeHash, until.toEpochMilli(), username).update() == 1);
    }

    private static <T> T asked(Supplier<T> question) {
        try {
            return question.get();
        } catch (DataAccessException e) {
            throw new UpkeepException("The database cannot be read: " + e.getMostSpecificCause().getMessage());
        }
    }

    @Override
    public void close() {
        try {
            connection.close();
        } catch (SQLException e) {
            throw new UpkeepException("The database cannot be closed: " + e.getMessage());
        }
    }
}
