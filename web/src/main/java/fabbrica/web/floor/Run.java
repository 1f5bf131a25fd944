package fabbrica.web.floor;

import fabbrica.core.run.Defect;
import fabbrica.core.run.Deviation;
import fabbrica.core.run.Sign;
import fabbrica.core.units.Money;
import java.time.Duration;
import java.time.Instant;
import java.util.List;
import org.jspecify.annotations.Nullable;

/**
 * One attempt at a plate.
 *
 * @param what        the models on it, as people know them
 * @param members     whose they are; may be empty
 * @param tickets     with copies on it
 * @param copies      how many there are
 * @param promisedS   seconds promised at the start
 * @param prepareS    the part of them before the first line
 * @param rawS        seconds as they were worked out, before anything learned; so rawG
 * @param taughtBy    how many runs of the printer had taught the promise
 * @param startedBy   the name by which they sign in; empty when they are not known
 * @param expectedAt  when its machine expects to be done, or was; null while there is only the promise
 * @param lookedAt    when somebody looked at its first layer; null until then
 * @param endedAt     null while it runs, as are real minutes and grams, how they are known, and cost
 * @param photoSha256 null when there is none
 */
public record Run(long id, long plateId, String what, String members, List<Long> tickets, int copies, String printerId, String printerName,
                  long spoolId, String spoolName, double promisedS, double prepareS, double promisedG,
                  double rawS, double rawG, int taughtBy, State state, Instant startedAt,
                  String startedBy, @Nullable Instant expectedAt, @Nullable Instant lookedAt, @Nullable Instant endedAt, @Nullable Double realMinutes,
                  Took.@Nullable Source minutesFrom, @Nullable Double realG, Took.@Nullable Source gramsFrom, @Nullable Money cost,
                  int failedCopies, List<Sign> signs, String cause, String note, @Nullable String photoSha256, @Nullable String photoType) {

    /** So long a first layer can still be saved, or ended without much loss (common practice, no source). */
    private static final Duration FIRST_LAYER = Duration.ofMinutes(15);

    /** The names are stored. */
    public enum State {
        RUNNING, DONE, FAILED
    }

    /** What is wrong with what it printed. */
    public List<Defect> defects() {
        return signs.stream().map(Sign::defect).toList();
    }

    /** Whether it ended, and copies came out well. */
    public boolean wentWell() {
        return state == State.DONE;
    }

    public Instant promisedEnd() {
        return startedAt.plus(Duration.ofSeconds(Math.round(promisedS)));
    }

    /** By its machine, or else by its promise. */
    public Instant expectedEnd() {
        return expectedAt == null ? promisedEnd() : expectedAt;
    }

    /** Whether its first layer is to be looked at by now, and nobody has. */
    public boolean isToBeLookedAt(Instant now) {
        Instant begins = startedAt.plus(Duration.ofSeconds(Math.round(prepareS)));
        return endedAt == null && lookedAt == null && !now.isBefore(begins) && now.isBefore(begins.plus(FIRST_LAYER));
    }

    /** Whether nobody has said how it ended, though it should have. */
    public boolean isOverdue(Instant now) {
        return endedAt == null && !expectedEnd().isAfter(now);
    }

    /** Promised against real minutes; only of a run that has ended. */
    public Deviation time() {
        return new Deviation(promisedS / 60, realMinutes == null ? 0 : realMinutes);
    }

    /** Promised against real grams; only of a run that has ended. */
    public Deviation filament() {
        return new Deviation(promisedG, realG == null ? 0 : realG);
    }
}
