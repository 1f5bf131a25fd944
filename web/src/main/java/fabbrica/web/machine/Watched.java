package fabbrica.web.machine;

import fabbrica.core.run.Cooling;
import fabbrica.core.run.MachineEvent.Warmth;
import fabbrica.core.run.MachineState.Kind;
import fabbrica.core.run.Trouble;
import java.time.Instant;
import org.jspecify.annotations.Nullable;

/**
 * A machine as pages show it.
 *
 * @param reckoned whether it tells nothing and takes no orders: it should stand so by the clock
 * @param runId    that it is at, or that waits to be cleared; null when there is none
 * @param layer    being laid, of how many; 0 before the first
 * @param done     of the file, 0 to 1
 * @param ends     when it is expected to end; null while nobody knows
 * @param coldIn   seconds until a print comes off its bed; 0 when it does
 * @param trouble  null when all is well
 * @param said     by the machine of its trouble; may be empty
 * @param refused  why it did not do what it was told last; empty when it did
 * @param camera   whether one looks at its bed
 */
public record Watched(String printerId, String name, Kind kind, boolean reckoned, @Nullable Long runId, int layer, int layers, double done, @Nullable Instant ends,
                      Warmth warmth, double coldIn, @Nullable Trouble trouble, String said, String refused,
                      Instant since, boolean camera) {

    /** Of the bed, at which a print comes off. */
    public double coldAtC() {
        return Cooling.LIFT_C;
    }

    public int percent() {
        return (int) Math.clamp(Math.round(100 * done), 0, 100);
    }

    public boolean isAtWork() {
        return kind == Kind.WARMING || kind == Kind.PRINTING || kind == Kind.PAUSED;
    }

    /** Whether it is at a run, and will say itself when that is over. */
    public boolean holdsOn() {
        return isAtWork() && !reckoned;
    }

    /** Whether it has said itself that its run is over. */
    boolean isOver() {
        return (kind == Kind.COOLING || kind == Kind.TO_BE_CLEARED) && !reckoned;
    }

    public boolean mayGoOn() {
        return kind == Kind.PAUSED && trouble != Trouble.ANOTHER;
    }

    public boolean mayPause() {
        return (kind == Kind.WARMING || kind == Kind.PRINTING) && !reckoned;
    }

    public boolean mayStop() {
        return isReached() && kind != Kind.FAULT && !reckoned;
    }

    public boolean isStopped() {
        return kind == Kind.FAULT;
    }

    public boolean isReached() {
        return kind != Kind.OUT_OF_REACH;
    }

    /** Whether somebody is to say how its run ended. */
    public boolean isToBeSaid() {
        return runId != null && !holdsOn();
    }

    /** The class of its state on pages, and its sign, for those who do not see the colour. */
    public String mark() {
        return trouble != null || kind == Kind.FAULT ? "stops" : isAtWork() ? "goes" : kind == Kind.COOLING || kind == Kind.TO_BE_CLEARED ? "care" : "";
    }

    public String sign() {
        return switch (mark()) {
            case "stops" -> "■";
            case "goes" -> "●";
            case "care" -> "◆";
            default -> "○";
        };
    }

    public boolean isCooling() {
        return kind == Kind.COOLING;
    }
}
