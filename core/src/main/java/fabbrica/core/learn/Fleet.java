package fabbrica.core.learn;

import fabbrica.core.estimate.Calibration.Factor;
import java.util.Arrays;
import java.util.Collection;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;
import org.apache.commons.numbers.gamma.Digamma;
import org.apache.commons.numbers.gamma.Trigamma;
import org.apache.commons.statistics.distribution.TDistribution;

/**
 * What all machines of a lab show of one quantity, each with a factor of its own: what one has shown counts the more the more often it has, until then it is
 * taken to be like the others, and those like their figures.
 *
 * <p>Logarithms of a machine's factors lie normally around the lab's own, as DerSimonian and Laird (1986) pool trials; the scatter of few runs leans on that
 * of all others, and the bounds come from Student's distribution with the freedom of both (Smyth 2004, moderated variances).
 */
final class Fleet {

    /** What is believed before the first run: scatter of a run, of machines among one another, of a lab against its figures (common practice, no source). */
    private static final double RUN_SPREAD = 0.08;
    private static final double MACHINE_SPREAD = 0.08;
    private static final double LAB_SPREAD = 0.1;
    /** With the weight of so many runs, and so many machines. */
    private static final double RUNS = 4;
    private static final double MACHINES = 2;
    /** Of a machine's own, how far the runs of all scatter counts as so many runs, unless the machines tell that they differ more or less in that. */
    private static final double OTHERS = 6;
    private static final double ALIKE = 1000;
    private static final int TELLING = 3;
    /** One time in ten it is more, one time in ten less. */
    private static final double UPPER = 0.9;

    private final Map<String, Ratios> machines;
    private final double runVariance;
    private final double runFreedom;
    private final double machineVariance;
    private final double centre;
    private final double centreVariance;

    private Fleet(Map<String, Ratios> machines) {
        this.machines = machines;
        this.runVariance = pooled(machines.values());
        this.runFreedom = freedom(machines.values());
        double between = 0, weights = 0, squares = 0, weighted = 0;
        for (Ratios each : machines.values()) {
            double weight = each.count() / variance(each);
            weights += weight;
            squares += weight * weight;
            weighted += weight * each.centre();
        }
        for (Ratios each : machines.values()) {
            double off = each.centre() - weighted / weights;
            between += each.count() / variance(each) * off * off;
        }
        int others = machines.size() - 1;
        double measured = others > 0 ? Math.max(0, (between - others) / (weights - squares / weights)) : 0;
        this.machineVariance = (MACHINES * MACHINE_SPREAD * MACHINE_SPREAD + Math.max(0, others) * measured) / (MACHINES + Math.max(0, others));
        double precision = 1 / (LAB_SPREAD * LAB_SPREAD), sum = 0;
        for (Ratios each : machines.values()) {
            double weight = 1 / (variance(each) / each.count() + machineVariance);
            precision += weight;
            sum += weight * each.centre();
        }
        this.centre = sum / precision;
        this.centreVariance = 1 / precision;
    }

    /** @param logs of real over promised, by machine; at least one of each */
    static Fleet of(Map<String, double[]> logs) {
        Map<String, Ratios> machines = new TreeMap<>();
        logs.forEach((machine, each) -> machines.put(machine, Ratios.of(each)));
        return new Fleet(machines);
    }

    /** Of any machine: one that has shown nothing yet is like the others. */
    Factor of(String machine) {
        Ratios own = machines.getOrDefault(machine, new Ratios(0, 0, 0));
        double variance = variance(own), shown = own.count() / variance, taken = 1 / machineVariance;
        double logarithm = (shown * own.centre() + taken * centre) / (shown + taken), share = taken / (shown + taken);
        double unsure = 1 / (shown + taken) + share * share * centreVariance;
        double half = TDistribution.of(runFreedom + own.freedom()).inverseCumulativeProbability(UPPER) * Math.sqrt(variance + unsure);
        return new Factor(Math.exp(logarithm - half), Math.exp(logarithm), Math.exp(logarithm + half), own.count());
    }

    private static double pooled(Collection<Ratios> machines) {
        double freedom = RUNS, sum = RUNS * RUN_SPREAD * RUN_SPREAD;
        for (Ratios each : machines) {
            freedom += each.freedom();
            sum += each.freedom() * each.spread() * each.spread();
        }
        return sum / freedom;
    }

    /** By how far the scatter differs between machines beyond what chance does to it (Smyth 2004, section 6.2). */
    private static double freedom(Collection<Ratios> machines) {
        List<Ratios> telling = machines.stream().filter(each -> each.count() >= TELLING && each.spread() > 0).toList();
        if (telling.size() < TELLING) {
            return OTHERS;
        }
        double[] logs = telling.stream().mapToDouble(each -> 2 * Math.log(each.spread()) - Digamma.value(each.freedom() / 2) + Math.log(each.freedom() / 2)).toArray();
        double mean = Arrays.stream(logs).average().orElseThrow();
        double differs = Arrays.stream(logs).map(each -> (each - mean) * (each - mean)).sum() / (logs.length - 1)
                - telling.stream().mapToDouble(each -> Trigamma.value(each.freedom() / 2)).average().orElseThrow();
        double low = OTHERS, high = ALIKE;
        while (high - low > 1) {
            double middle = (low + high) / 2;
            if (Trigamma.value(middle / 2) > differs) {
                low = middle;
            } else {
                high = middle;
            }
        }
        return low;
    }

    /** Of one run of a machine. */
    private double variance(Ratios machine) {
        return (runFreedom * runVariance + machine.freedom() * machine.spread() * machine.spread()) / (runFreedom + machine.freedom());
    }
}
