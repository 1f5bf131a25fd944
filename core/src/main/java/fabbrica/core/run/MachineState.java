package fabbrica.core.run;

import fabbrica.core.run.MachineEvent.Doing;
import fabbrica.core.run.MachineEvent.Reported;
import fabbrica.core.run.MachineEvent.Warmth;
import java.time.Instant;
import java.util.Optional;
import org.jspecify.annotations.Nullable;

/**
 * How a machine stands by all that it has said.
 *
 * @param reached  whether it answers
 * @param why      it does not, a clause; empty while it does
 * @param since    when that began
 * @param report   the last one; null when there was none yet
 * @param paused   why it has paused by itself; empty when it has not
 * @param halted   why it has stopped everything; so too
 */
public record MachineState(boolean reached, String why, Instant since, @Nullable Reported report, String paused, String halted) {

    /** So much colder than it should be is no swing of its control any more (common practice, no source). */
    private static final double FALLEN_C = 15;

    /** What it is at, as people see it. */
    public enum Kind {
        OUT_OF_REACH("out of reach"), IDLE("idle"), WARMING("warming up"), PRINTING("printing"), PAUSED("paused"), COOLING("cooling"),
        TO_BE_CLEARED("waiting to be cleared"), FAULT("stopped");

        private final String label;

        Kind(String label) {
            this.label = label;
        }

        public String label() {
            return label;
        }
    }

    /**
     * What somebody has had it begin with.
     *
     * @param file  on it
     * @param over  whether it came to an end, and nobody has cleared it yet
     * @param whole whether that end was the file's
     */
    public record Job(String file, boolean over, boolean whole) {
    }

    public static MachineState unknown(Instant at) {
        return new MachineState(false, "it has not been reached yet", at, null, "", "");
    }

    public MachineState after(MachineEvent event, Instant at) {
        return switch (event) {
            case MachineEvent.Reached now -> new MachineState(true, "", at, null, "", "");
            case MachineEvent.Lost(String because) -> new MachineState(false, because, reached ? at : since, report, paused, halted);
            case Reported now -> new MachineState(reached, why, since, now, now.doing() == Doing.PAUSED ? paused : "", now.doing() == Doing.STOPPED ? halted : "");
            case MachineEvent.Paused(String because) -> new MachineState(reached, why, since, report, because, halted);
            case MachineEvent.Resumed now -> new MachineState(reached, why, since, report, "", halted);
            case MachineEvent.Halted(String because) -> new MachineState(reached, why, since, report, paused, because);
            case MachineEvent.Loaded loaded -> this;
            case MachineEvent.Started started -> this;
            case MachineEvent.Refused refused -> this;
        };
    }

    /**
     * @param job     null when nothing was begun, or all was cleared
     * @param coldAtC of the bed at which a print can be taken off
     */
    public Kind kind(@Nullable Job job, double coldAtC) {
        if (!reached || report == null) {
            return Kind.OUT_OF_REACH;
        }
        return switch (report.doing()) {
            case STOPPED -> Kind.FAULT;
            case PAUSED -> Kind.PAUSED;
            case PRINTING -> report.layer() == 0 && !isWarm(report.warmth()) ? Kind.WARMING : Kind.PRINTING;
            case NOTHING -> job == null ? Kind.IDLE : report.warmth().bedC() > coldAtC ? Kind.COOLING : Kind.TO_BE_CLEARED;
        };
    }

    /** What is wrong, if anything. */
    public Optional<Trouble> trouble(@Nullable Job job) {
        boolean begun = job != null && !job.over();
        if (!reached) {
            return why.contains("busy") ? Optional.of(Trouble.TAKEN) : begun ? Optional.of(Trouble.SILENT) : Optional.empty();
        }
        if (!halted.isEmpty() || report != null && report.doing() == Doing.STOPPED) {
            return Optional.of(Trouble.HALTED);
        }
        if (report == null) {
            return Optional.empty();
        }
        if (job != null && job.over() && !job.whole()) {
            return Optional.of(Trouble.CUT_SHORT);
        }
        if (!report.file().isEmpty() && (job == null || !report.file().equals(job.file()))) {
            return Optional.of(Trouble.UNKNOWN_FILE);
        }
        if (report.doing() == Doing.PAUSED && !paused.isEmpty()) {
            return Optional.of(Trouble.ofPause(paused));
        }
        return report.doing() == Doing.PRINTING && report.layer() > 0 && report.warmth().nozzleC() < report.warmth().nozzleTargetC() - FALLEN_C
                ? Optional.of(Trouble.COLD) : Optional.empty();
    }

    private static boolean isWarm(Warmth warmth) {
        return warmth.nozzleTargetC() > 0 && warmth.nozzleC() >= warmth.nozzleTargetC() - FALLEN_C && warmth.bedC() >= warmth.bedTargetC() - FALLEN_C;
    }
}
