package fabbrica.printsim;

import fabbrica.core.gcode.Cue;
import fabbrica.core.recipe.Preparation;
import fabbrica.core.recipe.Printer;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.random.RandomGenerator;
import org.jspecify.annotations.Nullable;

/**
 * A machine that carries out programs as time passes. It knows no clock: whoever asks tells it how late it is, and it catches up exactly, however
 * long ago it was asked last. Not to be asked by two threads at once.
 */
final class SimulatedPrinter {

    /** A bed for a table, and a hot end, lose two thirds of their warmth in so long (common practice, no source). */
    private static final double BED_TAU_S = 900;
    private static final double NOZZLE_TAU_S = 120;
    /** What heating times are stated for (common practice, no source). */
    private static final double BED_C = 60;
    private static final double NOZZLE_C = 210;
    /** So long a heater may stray before the firmware stops everything (common practice, no source). */
    private static final double STRAYS_S = 40;
    private static final double BOOTS_S = 60;
    private static final double LINE_DEAD_S = 300;
    private static final double NOTHING = 1e-9;

    /** What it is doing. */
    enum Doing {
        IDLE, PRINTING, PAUSED, HALTED
    }

    /**
     * How it stands.
     *
     * @param file       that it is at; empty when it is at none
     * @param byteAt     how many bytes of it are done
     * @param layer      being laid, from 1; 0 before the first
     * @param laid       layers, with the part of the one that is being laid
     * @param looseAt    layer from which on nothing held to the bed; 0 as long as it does
     * @param filamentMm pushed forward in this run, really
     * @param elapsedS   since this run began
     */
    record Standing(Doing doing, String file, long byteAt, long bytes, int layer, double laid, int looseAt, double filamentMm, double elapsedS, double bedC, double bedTargetC, double nozzleC,
                    double nozzleTargetC) {
    }

    /**
     * How a run was over.
     *
     * @param whole     whether it came to its end
     * @param seconds   in all
     * @param heatingS  of them, how long it waited until bed and nozzle were warm
     * @param readyingS how long it homed and levelled
     * @param pausedS   how long it stood still
     */
    record Ended(String file, boolean whole, int layer, double filamentMm, double seconds, double heatingS, double readyingS, double pausedS) {
    }

    private final Printer figures;
    private final Truth truth;
    private final Odds odds;
    private final RandomGenerator random;
    private final Heater bed;
    private final Heater nozzle;
    private final Instant switchedOn;
    private final List<String> said = new ArrayList<>();
    private final List<Ended> history = new ArrayList<>();
    private final Map<Integer, Fault> planned = new HashMap<>();

    /** Seconds since it was switched on. */
    private double now;
    private Doing doing = Doing.IDLE;
    private @Nullable Run run;
    private @Nullable Ended ended;
    private double filamentLeftMm = Double.POSITIVE_INFINITY;
    private double strayingUntil = Double.POSITIVE_INFINITY;
    private double awayUntil;
    private double lineDeadUntil;

    /** A program on its way. */
    private final class Run {

        private final Program program;
        private final Truth truth = SimulatedPrinter.this.truth.ofOneRun(random);
        private final double began = now;
        private final Map<Integer, Fault> faults = new HashMap<>(planned);
        private int next;
        private int layer;
        private int looseAt;
        private double atS;
        /** Seconds that what is waited for still takes; 0 while the head moves. */
        private double waitS;
        private double heatingS;
        private double readyingS;
        private double pausedS;

        private Run(Program program) {
            this.program = program;
            odds.draw(random).ifPresent(fault -> faults.putIfAbsent(1 + random.nextInt(Math.max(1, program.layers())), fault));
        }

        private Cue cue() {
            return program.cues().get(next);
        }

        private double filamentMm() {
            return truth.plastic() * program.filamentMm(next, atS);
        }

        /** Seconds until the next thing happens. */
        private double untilNext() {
            if (waitS > 0) {
                return waitS;
            }
            double left = Math.max(0, cue().atS() - atS), wanted = truth.plastic() * cue().filamentMm() - filamentMm();
            return truth.motion() * (wanted > filamentLeftMm ? left * filamentLeftMm / wanted : left);
        }

        private void pass(double seconds) {
            if (waitS > 0) {
                waited(seconds);
                waitS = Math.max(0, waitS - seconds);
                next += waitS > NOTHING ? 0 : 1;
                waitS = waitS > NOTHING ? waitS : 0;
                return;
            }
            double before = filamentMm();
            atS += seconds / truth.motion();
            filamentLeftMm = Math.max(0, filamentLeftMm - (filamentMm() - before));
            if (cue().atS() - atS < NOTHING) {
                reached(cue());
            } else if (filamentLeftMm < NOTHING) {
                happen(Fault.FILAMENT_OUT);
            }
        }

        private void waited(double seconds) {
            switch (cue().kind()) {
                case AWAIT_BED, AWAIT_NOZZLE -> heatingS += seconds;
                case HOME, LEVEL -> readyingS += seconds;
                default -> { }
            }
        }

        private void reached(Cue cue) {
            switch (cue.kind()) {
                case BED -> bed.set(cue.value());
                case NOZZLE -> nozzle.set(cue.value());
                case AWAIT_BED -> awaits(bed, cue.value());
                case AWAIT_NOZZLE -> awaits(nozzle, cue.value());
                case HOME, LEVEL -> waitS = truth.readying() * cue.value();
                case PICTURE, DWELL -> waitS = truth.motion() * cue.value();
                case CHANGE -> pause("change the filament, then go on");
                case PAUSE -> pause("the file asks for somebody");
                case LAYER -> layer++;
                case END -> end(true);
            }
            next += waitS > 0 || cue.kind() == Cue.Kind.END ? 0 : 1;
            if (cue.kind() == Cue.Kind.LAYER) {
                Optional.ofNullable(faults.remove(layer)).ifPresent(SimulatedPrinter.this::happen);
            }
        }

        private void awaits(Heater heater, double celsius) {
            heater.set(celsius);
            waitS = heater.secondsToTarget();
        }
    }

    /** @param at when it is switched on */
    SimulatedPrinter(Printer figures, Truth truth, Odds odds, RandomGenerator random, Instant at) {
        this.figures = figures;
        this.truth = truth;
        this.odds = odds;
        this.random = random;
        this.switchedOn = at;
        Preparation preparation = figures.preparation();
        this.bed = Heater.reaching(BED_C, truth.heating() * (BED_C - Preparation.ROOM_C) / preparation.bedCPerS(), BED_TAU_S);
        this.nozzle = Heater.reaching(NOZZLE_C, truth.heating() * (NOZZLE_C - Preparation.ROOM_C) / preparation.nozzleCPerS(), NOZZLE_TAU_S);
    }

    /** Catches up. A clock that was set back stands still until it is as late as it was. */
    void passTo(Instant then) {
        double late = Duration.between(switchedOn, then).toNanos() / 1e9;
        while (now < late) {
            double step = Math.min(late - now, strayingUntil - now);
            Run at = run;
            if (doing == Doing.PRINTING && at != null) {
                step = Math.min(step, at.untilNext());
            }
            bed.pass(step);
            nozzle.pass(step);
            now = step == late - now ? late : now + step;
            if (now >= strayingUntil) {
                halt("Thermal runaway, everything is stopped. Heater: nozzle");
            } else if (doing == Doing.PRINTING && at != null) {
                at.pass(step);
            } else if (doing == Doing.PAUSED && at != null) {
                at.pausedS += step;
            }
        }
    }

    Standing standing() {
        Run at = run;
        return at == null ? new Standing(doing, "", 0, 0, 0, 0, 0, 0, 0, bed.celsius(), bed.target(), nozzle.celsius(), nozzle.target())
                : new Standing(doing, at.program.name(), at.program.byteAt(at.next, at.atS), at.program.bytes(), at.layer,
                        at.program.laid(at.layer, at.atS), at.looseAt, at.filamentMm(), now - at.began, bed.celsius(), bed.target(), nozzle.celsius(), nozzle.target());
    }

    /** How the last run was over; nothing when there was none since it was switched on. */
    Optional<Ended> ended() {
        return Optional.ofNullable(ended);
    }

    /** All runs that were over since it was made, those that the power cut short among them. */
    List<Ended> history() {
        return List.copyOf(history);
    }

    /** Whether it answers: its power is on, and the line to it is whole. */
    boolean isReachable() {
        return now >= awayUntil && now >= lineDeadUntil;
    }

    /** What it has said by itself since it was asked last. */
    List<String> said() {
        List<String> all = List.copyOf(said);
        said.clear();
        return all;
    }

    /** What shall happen as soon as a layer of the next run begins, from 1. */
    void whenLayer(int layer, Fault fault) {
        planned.put(layer, fault);
    }

    /** How much filament is on the spool that it prints from. */
    void load(double filamentMm) {
        filamentLeftMm = filamentMm;
    }

    /** @throws Refused when it cannot be started now, or the file is for another machine */
    void start(Program program) {
        if (doing != Doing.IDLE) {
            throw new Refused(doing == Doing.HALTED ? "it is stopped; switch it off and on again" : "it is at another file");
        }
        String wanted = program.hints().getOrDefault("printer", figures.name());
        if (!wanted.equals(figures.name())) {
            throw new Refused("that file is for “%s”, this is “%s”".formatted(wanted, figures.name()));
        }
        run = new Run(program);
        planned.clear();
        ended = null;
        doing = Doing.PRINTING;
    }

    void pause(String why) {
        if (doing == Doing.PRINTING) {
            doing = Doing.PAUSED;
            said.add("//action:paused " + why);
        }
    }

    void resume() {
        if (doing == Doing.PAUSED) {
            doing = Doing.PRINTING;
            said.add("//action:resumed");
        }
    }

    void cancel() {
        if (doing == Doing.PRINTING || doing == Doing.PAUSED) {
            end(false);
            bed.set(0);
            nozzle.set(0);
        }
    }

    void heatBed(double celsius) {
        bed.set(celsius);
    }

    void heatNozzle(double celsius) {
        nozzle.set(celsius);
    }

    /** Everything off at once; only switching it off and on helps. */
    void halt(String why) {
        end(false);
        doing = Doing.HALTED;
        bed.cutOff();
        nozzle.cutOff();
        strayingUntil = Double.POSITIVE_INFINITY;
        said.add("!! " + why);
    }

    /** As by the switch: what it was at is gone, and it is away until it has come up again. */
    void switchOffAndOn() {
        end(false);
        restart();
        ended = null;
        awayUntil = now + BOOTS_S;
    }

    /** Ready again after it was stopped; what it was at is gone. */
    void restart() {
        run = null;
        doing = Doing.IDLE;
        bed.cutOff();
        nozzle.cutOff();
        strayingUntil = Double.POSITIVE_INFINITY;
        said.clear();
    }

    void happen(Fault fault) {
        switch (fault) {
            case POWER_CUT -> switchOffAndOn();
            case LOST_CONNECTION -> lineDeadUntil = now + LINE_DEAD_S;
            case RUNAWAY -> {
                nozzle.runAway();
                strayingUntil = now + STRAYS_S;
            }
            case OFF_BED -> {
                Optional.ofNullable(run).ifPresent(at -> at.looseAt = at.layer);
                pause(fault.sentence());
            }
            case CLOG, FILAMENT_OUT, SNAG, DOOR_OPEN -> pause(fault.sentence());
        }
    }

    private void end(boolean whole) {
        Run at = run;
        if (at != null) {
            ended = new Ended(at.program.name(), whole, at.layer, at.filamentMm(), now - at.began, at.heatingS, at.readyingS, at.pausedS);
            history.add(ended);
            said.add(whole ? "Done printing file" : "Print aborted");
            run = null;
            doing = Doing.IDLE;
        }
    }
}
