package fabbrica.web.machine;

import fabbrica.core.run.MachineEvent.Spent;
import fabbrica.core.run.MachineState;
import java.time.Instant;
import java.util.UUID;
import org.jspecify.annotations.Nullable;

/**
 * A file that was put on a machine for a plate, and what became of it.
 *
 * @param file       its name there, never used again
 * @param hash       of what was sent; empty when somebody carried it
 * @param sha256     the same in the store; null when somebody carried it, and once nobody needs it any more
 * @param mark       of what it was made from
 * @param checked    whether the machine has read the same back
 * @param orderedAt  when somebody confirmed that it may begin; null until then
 * @param orderedBy  the name by which they sign in
 * @param runId      null until the machine has begun
 * @param layer      that it has come to, by what it said last
 * @param filamentMm pushed forward, so too
 * @param over       null until the machine is no longer at it
 */
public record MachineFile(String file, String printerId, long plateId, String hash, @Nullable String sha256, String mark, boolean checked, int layers,
                          @Nullable Instant orderedAt, String orderedBy, @Nullable Long runId, int layer, double filamentMm, @Nullable Over over) {

    /**
     * How the machine came to an end with it.
     *
     * @param whole whether it was the file's end
     * @param spent where its seconds went; null when it did not say
     */
    public record Over(Instant at, boolean whole, double seconds, @Nullable Spent spent) {
    }

    /** A name for a plate's file, never used before. */
    static String name(long plateId) {
        return "plate-%d-%s.gcode".formatted(plateId, UUID.randomUUID().toString().substring(0, 8));
    }

    /** One that somebody carries there: what is on the card nobody can read back. */
    static MachineFile carried(String printerId, long plateId, String mark) {
        return new MachineFile(name(plateId), printerId, plateId, "", null, mark, false, 0, null, "", null, 0, 0, null);
    }

    /** One that was just put there. */
    static MachineFile sent(String file, String printerId, long plateId, String hash, String mark, int layers) {
        return new MachineFile(file, printerId, plateId, hash, hash, mark, false, layers, null, "", null, 0, 0, null);
    }

    MachineFile checked(boolean same) {
        return new MachineFile(file, printerId, plateId, hash, sha256, mark, same, layers, orderedAt, orderedBy, runId, layer, filamentMm, over);
    }

    MachineFile ordered(@Nullable Instant at, String by) {
        return new MachineFile(file, printerId, plateId, hash, sha256, mark, checked, layers, at, by, runId, layer, filamentMm, over);
    }

    MachineFile at(int otherLayer, double otherFilamentMm) {
        return new MachineFile(file, printerId, plateId, hash, sha256, mark, checked, layers, orderedAt, orderedBy, runId, otherLayer, otherFilamentMm, over);
    }

    MachineFile ended(Over end) {
        return new MachineFile(file, printerId, plateId, hash, sha256, mark, checked, layers, orderedAt, orderedBy, runId, layer, filamentMm, end);
    }

    boolean isOrdered() {
        return orderedAt != null && runId == null;
    }

    /** Whether somebody carried it there: no machine knows it by this name. */
    boolean isCarried() {
        return hash.isEmpty();
    }

    boolean isAtIt() {
        return runId != null && over == null;
    }

    MachineState.Job job() {
        return new MachineState.Job(file, over != null, over != null && over.whole());
    }
}
