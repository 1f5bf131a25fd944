package fabbrica.web.platform.storage;

import java.sql.SQLException;
import org.jspecify.annotations.Nullable;
import org.springframework.dao.DataAccessException;
import org.springframework.dao.DataIntegrityViolationException;
import org.springframework.jdbc.UncategorizedSQLException;
import org.springframework.jdbc.support.SQLExceptionTranslator;
import org.springframework.stereotype.Component;

/** Faults of SQLite as what they are; its driver gives no SQL states by which others would tell them apart. */
@Component
class SqliteTranslator implements SQLExceptionTranslator {

    @Override
    public DataAccessException translate(String task, @Nullable String sql, SQLException exception) {
        StorageFault fault = StorageFault.of(exception);
        return switch (fault) {
            case BUSY, FULL, READ_ONLY, BROKEN -> new StorageException(fault, exception);
            case CONSTRAINT -> new DataIntegrityViolationException(task + ": " + exception.getMessage(), exception);
            case OTHER -> new UncategorizedSQLException(task, sql, exception);
        };
    }
}
