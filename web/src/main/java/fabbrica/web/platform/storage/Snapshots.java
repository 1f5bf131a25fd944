package fabbrica.web.platform.storage;

import java.time.Clock;
import java.time.Instant;
import java.time.temporal.ChronoUnit;
import java.util.function.Supplier;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Component;
import org.springframework.transaction.support.TransactionSynchronizationManager;

/**
 * What many pages read of the lab alike, read once for all of them: until something else is kept, and within one minute of the clock, for much depends
 * on the present. Whoever writes reads anew, to see what they wrote.
 */
@Component
public class Snapshots {

    private final WriterTransactions transactions;
    private final Clock clock;

    Snapshots(WriterTransactions transactions, Clock clock) {
        this.transactions = transactions;
        this.clock = clock;
    }

    /** @param read gives what nobody changes, from what is kept and the clock alone; whoever asks meanwhile waits for it */
    public <T> Supplier<T> of(Supplier<T> read) {
        return new Latest<>(read);
    }

    private record Taken<T>(long kept, Instant minute, T value) {
    }

    private final class Latest<T> implements Supplier<T> {

        private final Supplier<T> read;
        private @Nullable Taken<T> taken;

        Latest(Supplier<T> read) {
            this.read = read;
        }

        @Override
        public T get() {
            return TransactionSynchronizationManager.isActualTransactionActive() ? read.get() : latest();
        }

        private synchronized T latest() {
            long kept = transactions.kept();
            Instant minute = clock.instant().truncatedTo(ChronoUnit.MINUTES);
            Taken<T> before = taken;
            Taken<T> now = before != null && before.kept == kept && before.minute.equals(minute) ? before : new Taken<>(kept, minute, read.get());
            taken = now;
            return now.value;
        }
    }
}
