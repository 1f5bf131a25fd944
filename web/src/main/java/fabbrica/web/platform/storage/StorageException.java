package fabbrica.web.platform.storage;

import org.jspecify.annotations.Nullable;
import org.springframework.dao.DataAccessException;

/** Something could not be stored, and nothing of it was. */
public final class StorageException extends DataAccessException {

    private final StorageFault fault;

    public StorageException(StorageFault fault, @Nullable Throwable cause) {
        super(fault.name(), cause);
        this.fault = fault;
    }

    public StorageFault fault() {
        return fault;
    }

    /** For the person who asked. */
    public String sentence() {
        return switch (fault) {
            case BUSY -> "The database is busy with somebody else's work. Try again in a moment.";
            case FULL -> "The disk of the lab's computer is full. Make room on it, then try again.";
            case READ_ONLY -> "The lab's data can only be read at the moment. Whoever looks after the computer has to allow writing.";
            default -> "The lab's data could not be written. Whoever looks after the computer should look at its disk and memory.";
        };
    }
}
