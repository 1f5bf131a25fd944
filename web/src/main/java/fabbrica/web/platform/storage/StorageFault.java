package fabbrica.web.platform.storage;

import java.io.IOException;
import java.nio.file.AccessDeniedException;
import java.sql.SQLException;
import java.sql.SQLTransientConnectionException;
import java.util.List;
import org.sqlite.SQLiteException;

/** What kept something from being stored. */
public enum StorageFault {
    /** Somebody else holds the lock, or no connection came free in time. */
    BUSY,
    /** The disk, or the space allotted, is full. */
    FULL,
    READ_ONLY,
    /** Reading or writing failed, memory ran out, or the file is no sound database. */
    BROKEN,
    /** The data would break a rule of the schema. */
    CONSTRAINT,
    OTHER;

    private static final int PRIMARY_CODE = 0xff;
    /** As the kernel words ENOSPC, EDQUOT and EROFS (value from memory). */
    private static final List<String> NO_SPACE = List.of("No space left on device", "Disk quota exceeded");
    private static final String NO_WRITING = "Read-only file system";

    /** Of a file that could not be written: {@link #FULL}, {@link #READ_ONLY}, or {@link #OTHER}. */
    public static StorageFault of(IOException exception) {
        String message = String.valueOf(exception.getMessage());
        if (NO_SPACE.stream().anyMatch(message::contains)) {
            return FULL;
        }
        return message.contains(NO_WRITING) || exception instanceof AccessDeniedException ? READ_ONLY : OTHER;
    }

    /** The first of these among an exception and its causes, else {@link #OTHER}. */
    public static StorageFault behind(Throwable exception) {
        for (Throwable cause = exception; cause != null; cause = cause.getCause()) {
            if (cause instanceof IOException io && of(io) != OTHER) {
                return of(io);
            }
        }
        return OTHER;
    }

    /** By SQLite's result codes (sqlite.org/rescode.html). */
    static StorageFault of(SQLException exception) {
        if (exception instanceof SQLTransientConnectionException) {
            return BUSY;
        }
        if (!(exception instanceof SQLiteException fault)) {
            return OTHER;
        }
        return switch (fault.getResultCode().code & PRIMARY_CODE) {
            case 5, 6 -> BUSY;
            case 13 -> FULL;
            case 8 -> READ_ONLY;
            case 7, 10, 11, 14, 26 -> BROKEN;
            case 19 -> CONSTRAINT;
            default -> OTHER;
        };
    }

    /** After these a connection is not used again: SQLite may have ended its transaction by itself. */
    boolean spoilsConnection() {
        return this == BUSY || this == FULL || this == BROKEN;
    }
}
