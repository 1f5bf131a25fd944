package fabbrica.web.platform.storage;

import java.util.concurrent.atomic.AtomicLong;
import java.util.function.Supplier;
import org.jspecify.annotations.Nullable;
import org.springframework.transaction.support.TransactionSynchronization;
import org.springframework.transaction.support.TransactionSynchronizationManager;

/**
 * A value in the database that is asked for on every page and seldom changes: it is read once, and anew after each transaction that
 * has changed it. A transaction that writes always reads for itself.
 */
public final class Kept<T> {

    private final Supplier<T> reading;
    private final AtomicLong changes = new AtomicLong();
    private volatile @Nullable Read<T> last;

    /** @param reading what is in the database; an immutable value */
    public Kept(Supplier<T> reading) {
        this.reading = reading;
    }

    private record Read<T>(long changes, T value) {
    }

    public T get() {
        if (TransactionSynchronizationManager.isActualTransactionActive()) {
            return reading.get();
        }
        long before = changes.get();
        Read<T> read = last;
        return read != null && read.changes() == before ? read.value() : anew();
    }

    /** Whoever comes meanwhile waits for it, and does not read as well. */
    private synchronized T anew() {
        long before = changes.get();
        Read<T> read = last;
        if (read == null || read.changes() != before) {
            read = new Read<>(before, reading.get());
            last = read;
        }
        return read.value();
    }

    /** Says that the transaction that is open changes the value. */
    public void changed() {
        TransactionSynchronizationManager.registerSynchronization(new TransactionSynchronization() {
            @Override
            public void afterCompletion(int status) {
                changes.incrementAndGet();
            }
        });
    }
}
