package fabbrica.core.schedule;

import java.util.Arrays;
import java.util.Random;

/**
 * A search for a better plan by small changes: a plate goes elsewhere, two change places, stretches of two machines are
 * exchanged. Changes for the worse are taken with a probability that falls as it cools (simulated annealing: Kirkpatrick, Gelatt
 * and Vecchi, Science 220, 1983). Starts are worked out by {@link Timing}; where no machine depends on another, only what
 * follows a change on one or two machines is worked out anew.
 *
 * <p>An object is for one thread.
 */
final class Annealing {

    private static final double MOVE = 0.5;
    private static final double SWAP = 0.8;
    /** Keeps those that begin at the same moment in their order; a second at most for a million plates. */
    private static final double A_LITTLE = 1e-6;
    private static final int LONGEST_STRETCH = 4;
    private static final int STEPS_BETWEEN_LOOKS_AT_THE_CLOCK = 64;

    private final Timing timing;
    private final Random random;
    private final int[] movable;

    private final int[][] sequence;
    private final int[] length;
    private final int[] option;
    private final double[] rank;
    private final long[] machineCost;
    private long total;

    private final int[] first;
    private final int[] second;
    private final int[] optionBefore;
    private final double[] rankBefore;
    private final int[] order;
    private final int[] next;

    private Plan best;

    /**
     * A plan as far as it is decided.
     *
     * @param sequences for each machine what it prints, in this order
     * @param order     of all plates, as they were laid out
     * @param option    for each plate how it is printed
     */
    record Plan(int[][] sequences, int[] order, int[] option, long cost) {
    }

    Annealing(Timing timing, long seed) {
        this.timing = timing;
        random = new Random(seed);
        movable = timing.movable();
        sequence = new int[timing.machines][movable.length];
        length = new int[timing.machines];
        option = new int[timing.plates];
        rank = new double[timing.plates];
        machineCost = new long[timing.machines];
        first = new int[movable.length];
        second = new int[movable.length];
        optionBefore = new int[timing.plates];
        rankBefore = new double[timing.plates];
        order = new int[movable.length];
        next = new int[timing.machines];
        best = laid(movable, false);
        int[] before = timing.asPublished();
        if (before.length > 0) {
            Plan kept = laid(before, true);
            best = kept.cost < best.cost ? kept : best;
        }
    }

    Plan best() {
        return best;
    }

    /**
     * All plates in an order, each to where it costs least behind what is there already.
     *
     * @param kept whether what was published stays on its machine
     */
    private Plan laid(int[] inOrder, boolean kept) {
        timing.reset();
        Arrays.fill(length, 0);
        for (int i = 0; i < inOrder.length; i++) {
            int j = inOrder[i];
            int stays = kept ? timing.publishedOption(j) : -1;
            option[j] = stays >= 0 ? stays : cheapest(j);
            timing.place(j, option[j]);
            int machine = timing.machineOf[option[j]];
            sequence[machine][length[machine]++] = j;
            rank[j] = i;
        }
        workOut();
        return plan();
    }

    private int cheapest(int j) {
        int cheapest = timing.firstOption[j];
        long least = Long.MAX_VALUE;
        for (int o = timing.firstOption[j]; o < timing.firstOption[j + 1]; o++) {
            long cost = timing.wouldCost(o);
            if (cost < least) {
                least = cost;
                cheapest = o;
            }
        }
        return cheapest;
    }

    private Plan plan() {
        int[][] sequences = new int[timing.machines][];
        for (int i = 0; i < timing.machines; i++) {
            sequences[i] = Arrays.copyOf(sequence[i], length[i]);
        }
        return new Plan(sequences, order.clone(), option.clone(), total);
    }

    /** Goes on from a plan. */
    void from(Plan plan) {
        for (int i = 0; i < timing.machines; i++) {
            length[i] = plan.sequences[i].length;
            System.arraycopy(plan.sequences[i], 0, sequence[i], 0, length[i]);
        }
        System.arraycopy(plan.option, 0, option, 0, option.length);
        for (int i = 0; i < plan.order.length; i++) {
            rank[plan.order[i]] = i;
        }
        workOut();
        keepIfBest();
    }

    private void workOut() {
        if (timing.coupled) {
            total = layAll(-1, -1, 0, 0, Long.MAX_VALUE);
            keepRanks();
        } else {
            total = 0;
            for (int i = 0; i < timing.machines; i++) {
                machineCost[i] = timing.lay(i, sequence[i], 0, length[i], option, Long.MAX_VALUE);
                timing.keep(sequence[i], 0, length[i]);
                total += machineCost[i];
            }
        }
    }

    private void keepIfBest() {
        if (total < best.cost) {
            best = plan();
        }
    }

    /** Cools from one temperature to another in a time, slower while it is hot. */
    void cool(double hot, double cold, long nanoseconds) {
        long begun = System.nanoTime();
        double passed = 0;
        while (passed < 1 && movable.length > 0 && !Thread.currentThread().isInterrupted()) {
            double temperature = hot * Math.pow(cold / hot, passed * passed);
            for (int i = 0; i < STEPS_BETWEEN_LOOKS_AT_THE_CLOCK; i++) {
                step(temperature);
                keepIfBest();
            }
            passed = (System.nanoTime() - begun) / (double) nanoseconds;
        }
    }

    private void step(double temperature) {
        // What a change may cost at most: drawn beforehand, so that a bad one need not be worked out to its end.
        long allowed = (long) Math.min(1e17, -temperature * Math.log(1 - random.nextDouble()));
        double kind = random.nextDouble();
        int j = movable[random.nextInt(movable.length)];
        if (kind < MOVE) {
            move(j, allowed);
        } else if (kind < SWAP) {
            swap(j, movable[random.nextInt(movable.length)], allowed);
        } else {
            exchange(j, allowed);
        }
    }

    private int placeOf(int machine, int j) {
        int[] there = sequence[machine];
        for (int i = 0;; i++) {
            if (there[i] == j) {
                return i;
            }
        }
    }

    /** A plate goes to another place, on the same machine or on another. */
    private void move(int j, long allowed) {
        int o = timing.firstOption[j] + random.nextInt(timing.firstOption[j + 1] - timing.firstOption[j]);
        int from = timing.machineOf[option[j]], to = timing.machineOf[o], p = placeOf(from, j);
        if (from == to) {
            int q = random.nextInt(length[from]);
            System.arraycopy(sequence[from], 0, first, 0, p);
            System.arraycopy(sequence[from], p + 1, first, p, length[from] - p - 1);
            System.arraycopy(first, q, first, q + 1, length[from] - 1 - q);
            first[q] = j;
            change(j, o, rankAt(from, q > p ? q + 1 : q));
            if (!decideOne(from, Math.min(p, q), allowed)) {
                changeBack(j);
            }
        } else {
            int q = random.nextInt(length[to] + 1);
            System.arraycopy(sequence[from], 0, first, 0, p);
            System.arraycopy(sequence[from], p + 1, first, p, length[from] - p - 1);
            System.arraycopy(sequence[to], 0, second, 0, q);
            second[q] = j;
            System.arraycopy(sequence[to], q, second, q + 1, length[to] - q);
            change(j, o, rankAt(to, q));
            if (!decideTwo(from, p, length[from] - 1, to, q, length[to] + 1, allowed)) {
                changeBack(j);
            }
        }
    }

    private void swap(int j, int k, long allowed) {
        int a = timing.machineOf[option[j]], b = timing.machineOf[option[k]];
        int forJ = a == b ? option[j] : timing.optionOn(j, b), forK = a == b ? option[k] : timing.optionOn(k, a);
        if (j == k || forJ < 0 || forK < 0) {
            return;
        }
        int p = placeOf(a, j), q = placeOf(b, k);
        double rankOfJ = rank[j];
        change(j, forJ, rank[k]);
        change(k, forK, rankOfJ);
        boolean taken;
        System.arraycopy(sequence[a], 0, first, 0, length[a]);
        first[p] = k;
        if (a == b) {
            first[q] = j;
            taken = decideOne(a, Math.min(p, q), allowed);
        } else {
            System.arraycopy(sequence[b], 0, second, 0, length[b]);
            second[q] = j;
            taken = decideTwo(a, p, length[a], b, q, length[b], allowed);
        }
        if (!taken) {
            changeBack(j);
            changeBack(k);
        }
    }

    /** What begins with a plate on its machine, and a stretch of another machine, or none, change places. */
    private void exchange(int j, long allowed) {
        int a = timing.machineOf[option[j]], b = random.nextInt(timing.machines), p = placeOf(a, j), q = random.nextInt(length[b] + 1);
        int goes = Math.min(1 + random.nextInt(LONGEST_STRETCH), length[a] - p), comes = Math.min(random.nextInt(1 + LONGEST_STRETCH), length[b] - q);
        if (a == b || !allHaveOptions(a, p, goes, b) || !allHaveOptions(b, q, comes, a)) {
            return;
        }
        splice(a, p, goes, b, q, comes, first);
        splice(b, q, comes, a, p, goes, second);
        double toB = rankAt(b, q), toA = rankAt(a, p);
        for (int i = p; i < p + goes; i++) {
            change(sequence[a][i], timing.optionOn(sequence[a][i], b), toB);
        }
        for (int i = q; i < q + comes; i++) {
            change(sequence[b][i], timing.optionOn(sequence[b][i], a), toA);
        }
        if (!decideTwo(a, p, length[a] - goes + comes, b, q, length[b] - comes + goes, allowed)) {
            for (int i = p; i < p + goes; i++) {
                changeBack(sequence[a][i]);
            }
            for (int i = q; i < q + comes; i++) {
                changeBack(sequence[b][i]);
            }
        }
    }

    private boolean allHaveOptions(int machine, int from, int count, int on) {
        for (int i = from; i < from + count; i++) {
            if (timing.optionOn(sequence[machine][i], on) < 0) {
                return false;
            }
        }
        return true;
    }

    /** The sequence of a machine with a stretch of it replaced by one of another machine. */
    private void splice(int machine, int at, int out, int from, int fromAt, int in, int[] into) {
        System.arraycopy(sequence[machine], 0, into, 0, at);
        System.arraycopy(sequence[from], fromAt, into, at, in);
        System.arraycopy(sequence[machine], at + out, into, at + in, length[machine] - at - out);
    }

    private void change(int j, int o, double newRank) {
        optionBefore[j] = option[j];
        rankBefore[j] = rank[j];
        option[j] = o;
        rank[j] = newRank;
    }

    private void changeBack(int j) {
        option[j] = optionBefore[j];
        rank[j] = rankBefore[j];
    }

    /** When a plate that comes to a place in a sequence takes its turn among those of all machines: at some moment around it. */
    private double rankAt(int machine, int place) {
        if (!timing.coupled) {
            return 0;
        }
        double after = place == 0 ? 0 : rank[sequence[machine][place - 1]];
        double before = place < length[machine] ? rank[sequence[machine][place]] : after + timing.longestS;
        return after + random.nextDouble() * Math.max(0, before - after);
    }

    /** Takes the sequence in {@code first} for a machine unless that costs too much. */
    private boolean decideOne(int machine, int from, long allowed) {
        if (timing.coupled) {
            return decideAll(machine, -1, length[machine], 0, allowed);
        }
        long cost = timing.lay(machine, first, from, length[machine], option, machineCost[machine] + allowed);
        if (cost - machineCost[machine] > allowed) {
            return false;
        }
        take(machine, first, from, length[machine], cost);
        return true;
    }

    /** Takes the sequences in {@code first} and {@code second} for two machines unless that costs too much. */
    private boolean decideTwo(int a, int fromA, int lengthA, int b, int fromB, int lengthB, long allowed) {
        if (timing.coupled) {
            return decideAll(a, b, lengthA, lengthB, allowed);
        }
        long most = machineCost[a] + machineCost[b] + allowed;
        long costA = timing.lay(a, first, fromA, lengthA, option, most);
        if (costA > most) {
            return false;
        }
        long costB = timing.lay(b, second, fromB, lengthB, option, most - costA);
        if (costA + costB > most) {
            return false;
        }
        take(a, first, fromA, lengthA, costA);
        take(b, second, fromB, lengthB, costB);
        return true;
    }

    private void take(int machine, int[] from, int begin, int count, long cost) {
        timing.keep(from, begin, count);
        System.arraycopy(from, begin, sequence[machine], begin, count - begin);
        length[machine] = count;
        total += cost - machineCost[machine];
        machineCost[machine] = cost;
    }

    private boolean decideAll(int a, int b, int lengthA, int lengthB, long allowed) {
        long cost = layAll(a, b, lengthA, lengthB, total + allowed);
        if (cost - total > allowed) {
            return false;
        }
        total = cost;
        System.arraycopy(first, 0, sequence[a], 0, lengthA);
        length[a] = lengthA;
        if (b >= 0) {
            System.arraycopy(second, 0, sequence[b], 0, lengthB);
            length[b] = lengthB;
        }
        keepRanks();
        return true;
    }

    /** Plates take their turns as work at them began when they were laid out last. */
    private void keepRanks() {
        for (int i = 0; i < order.length; i++) {
            int j = order[i];
            if (timing.chosen[j] >= 0) {
                rank[j] = timing.work[j] + A_LITTLE * i;
            }
        }
    }

    /** All machines' sequences merged by rank, with new ones for two of them; -1 for none. */
    private long layAll(int a, int b, int lengthA, int lengthB, long most) {
        Arrays.fill(next, 0);
        double turn = 0;
        for (int i = 0; i < order.length; i++) {
            int machine = -1;
            double soonest = Double.POSITIVE_INFINITY;
            for (int k = 0; k < timing.machines; k++) {
                int count = k == a ? lengthA : k == b ? lengthB : length[k];
                if (next[k] < count) {
                    int j = (k == a ? first : k == b ? second : sequence[k])[next[k]];
                    double at = Math.max(turn, rank[j]);
                    if (at < soonest) {
                        soonest = at;
                        machine = k;
                    }
                }
            }
            turn = soonest;
            order[i] = (machine == a ? first : machine == b ? second : sequence[machine])[next[machine]++];
        }
        return timing.lay(order, order.length, option, most);
    }
}
