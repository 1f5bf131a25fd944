package fabbrica.web.ticket;

import fabbrica.core.run.Defect;
import fabbrica.core.run.Deviation;
import fabbrica.core.units.Money;
import java.time.Duration;
import java.time.Instant;
import java.util.List;
import org.jspecify.annotations.Nullable;

/**
 * One attempt at printing one copy.
 *
 * @param promisedS   seconds promised at the start
 * @param prepareS    the part of them before the first line
 * @param endedAt     null while it runs
 * @param realMinutes null while it runs
 * @param startedBy   the name by which they sign in; empty when they are not known
 * @param cost        null while it runs
 * @param photoSha256 null when there is none
 */
public record Run(long id, long ticketId, String modelName, String memberName, String printerId, String printerName,
                  long spoolId, String spoolName, double promisedS, double prepareS, double promisedG,
                  State state, Instant startedAt, String startedBy, @Nullable Instant endedAt, @Nullable Double realMinutes, @Nullable Double realG,
                  @Nullable Money cost, List<Defect> defects, String cause, String note, @Nullable String photoSha256,
                  @Nullable String photoType) {

    /** The names are stored. */
    public enum State {
        RUNNING, DONE, FAILED
    }

    public Instant promisedEnd() {
        return startedAt.plus(Duration.ofSeconds(Math.round(promisedS)));
    }

    /** Promised against real minutes; only of a run that has ended. */
    public Deviation time() {
        return new Deviation(promisedS / 60, realMinutes);
    }

    /** Promised against real grams; only of a run that has ended. */
    public Deviation filament() {
        return new Deviation(promisedG, realG);
    }

    /** Per cent of the promised time that is over, 0 to 100. */
    public int percent(Instant now) {
        return (int) Math.clamp(100 * Duration.between(startedAt, now).toSeconds() / Math.max(1, promisedS), 0, 100);
    }
}
