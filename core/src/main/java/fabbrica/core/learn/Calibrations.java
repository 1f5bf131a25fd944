package fabbrica.core.learn;

import fabbrica.core.estimate.Calibration;
import fabbrica.core.estimate.Calibration.Factor;
import fabbrica.core.estimate.Stage;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.OptionalDouble;
import java.util.concurrent.ConcurrentHashMap;
import java.util.function.Function;
import java.util.function.ToDoubleFunction;

/**
 * Learns the calibrations of a lab's machines from their runs: {@link Ratios} of each, leaning on those of the {@link Fleet} while they are few. A run that was
 * cut short teaches the stages that it came through. Where nobody has measured how long a run heated and got ready, printing is what is left of the whole.
 */
public final class Calibrations {

    /** Of each printer only so many are looked at: what earlier ones taught may not hold any more (common practice, no source). */
    public static final int LATEST = 120;

    private final Function<String, Factor> heating;
    private final Function<String, Factor> readying;
    private final Function<String, Factor> printing;
    private final Function<String, Factor> plastic;
    private final Map<String, Calibration> known = new ConcurrentHashMap<>();

    private Calibrations(Map<String, List<Experience>> runs) {
        heating = learn(runs, Calibration.NONE.of(Stage.HEATING), run -> run.real(Stage.HEATING), run -> run.promised(Stage.HEATING));
        readying = learn(runs, Calibration.NONE.of(Stage.READYING), run -> run.real(Stage.READYING), run -> run.promised(Stage.READYING));
        printing = learn(runs, Calibration.NONE.of(Stage.PRINTING), this::printed, run -> run.promised(Stage.PRINTING));
        plastic = learn(runs, Calibration.NONE.plastic(), Experience::grams, Experience::promisedG);
    }

    /** @param runs of all machines, in the order in which they were started */
    public static Calibrations of(List<Experience> runs) {
        Map<String, List<Experience>> byPrinter = new HashMap<>();
        runs.forEach(run -> byPrinter.computeIfAbsent(run.printerId(), printer -> new ArrayList<>()).add(run));
        byPrinter.replaceAll((printer, own) -> own.subList(Math.max(0, own.size() - LATEST), own.size()));
        return new Calibrations(byPrinter);
    }

    /** Of any printer: one that has not run yet is taken to be like the others. */
    public Calibration of(String printerId) {
        return known.computeIfAbsent(printerId, id -> new Calibration(Map.of(Stage.HEATING, heating.apply(id), Stage.READYING, readying.apply(id), Stage.PRINTING,
                printing.apply(id)), plastic.apply(id)));
    }

    private static Function<String, Factor> learn(Map<String, List<Experience>> runs, Factor unlearned, Function<Experience, OptionalDouble> real,
                                                  ToDoubleFunction<Experience> promised) {
        Map<String, double[]> logs = new HashMap<>();
        runs.forEach((printer, own) -> {
            double[] each = own.stream().filter(run -> promised.applyAsDouble(run) > 0).flatMapToDouble(run -> real.apply(run).stream().filter(value -> value > 0)
                    .map(value -> Math.log(value / promised.applyAsDouble(run)))).toArray();
            if (each.length > 0) {
                logs.put(printer, each);
            }
        });
        return logs.isEmpty() ? printer -> unlearned : Fleet.of(logs)::of;
    }

    private OptionalDouble printed(Experience run) {
        return run.total().isEmpty() ? OptionalDouble.empty() : OptionalDouble.of(run.total().getAsDouble()
                - run.real(Stage.HEATING).orElseGet(() -> run.promised(Stage.HEATING) * heating.apply(run.printerId()).usual())
                - run.real(Stage.READYING).orElseGet(() -> run.promised(Stage.READYING) * readying.apply(run.printerId()).usual()));
    }
}
