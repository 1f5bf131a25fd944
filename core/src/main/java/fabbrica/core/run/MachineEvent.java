package fabbrica.core.run;

import org.jspecify.annotations.Nullable;

/** What a machine says of itself, or what is found out about it on the line. */
public sealed interface MachineEvent {

    /**
     * It answers, and has said who it is.
     *
     * @param hashes whether it reads back the hash of a file
     */
    record Reached(String uuid, String name, boolean hashes) implements MachineEvent {
    }

    /** @param why a clause */
    record Lost(String why) implements MachineEvent {
    }

    /**
     * How it stands, asked for again and again.
     *
     * @param file  that it is at; empty when it is at none
     * @param layer being laid, from 1; 0 before the first, or when it does not say
     * @param filamentMm pushed forward since it began; 0 when it does not say
     * @param last  how the run before was over; null when it does not say, or there was none since it was switched on
     * @param reckoned whether nobody has told it: it should stand so by the clock
     */
    record Reported(Warmth warmth, Doing doing, String file, long byteAt, long bytes, int layer, double filamentMm, @Nullable Ended last, boolean reckoned) implements MachineEvent {
    }

    /** What a machine is doing as it sees it. */
    enum Doing {
        NOTHING, PRINTING, PAUSED, STOPPED
    }

    /** °C at the nozzle and the bed, and what they are to have; 0 for off. */
    record Warmth(double nozzleC, double nozzleTargetC, double bedC, double bedTargetC) {
    }

    /**
     * How a run was over.
     *
     * @param whole      whether it came to its end
     * @param filamentMm pushed forward
     * @param spent      where its seconds went; null when it does not say
     */
    record Ended(String file, boolean whole, int layer, double filamentMm, double seconds, @Nullable Spent spent) {
    }

    /** Of the seconds of a run, those that moved nothing of it forward. */
    record Spent(double heatingS, double readyingS, double pausedS) {
    }

    /** It has paused by itself, or was told to. */
    record Paused(String why) implements MachineEvent {
    }

    record Resumed() implements MachineEvent {
    }

    /** It has stopped everything by itself, or was told to. */
    record Halted(String why) implements MachineEvent {
    }

    /**
     * A file is on it.
     *
     * @param sha256  of what was sent
     * @param checked whether the machine has read the same back; false when it cannot
     */
    record Loaded(String file, String sha256, boolean checked) implements MachineEvent {
    }

    record Started(String file) implements MachineEvent {
    }

    /** It did not do what it was told. */
    record Refused(Command command, String why) implements MachineEvent {
    }
}
