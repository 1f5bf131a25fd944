package fabbrica.core.schedule;

import fabbrica.core.schedule.FloorView.Limit;
import fabbrica.core.schedule.FloorView.Machine;
import fabbrica.core.schedule.FloorView.Option;
import fabbrica.core.schedule.FloorView.Person;
import fabbrica.core.schedule.FloorView.Place;
import fabbrica.core.schedule.FloorView.Waiting;
import fabbrica.core.schedule.Schedule.Slot;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.Comparator;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Optional;
import java.util.stream.IntStream;
import org.jspecify.annotations.Nullable;

/**
 * When plates start, once it is decided which goes where and which goes first: one after another, each as early as all rules
 * allow behind what its machine has got so far. For costs that never fall with time, some order of the plates gives the best
 * plan there is (serial generation of active schedules: Kolisch, "Serial and parallel resource-constrained project scheduling
 * methods revisited", EJOR 90, 1996). It is the only place that works out starts.
 *
 * <p>Before a start somebody clears the bed, changes filament and nozzle and does what is owed to the machine, in one go that ends
 * at the start; what comes due only because it starts later is owed as well. That work, and
 * the minute of the start itself, lie in one stretch of staffed time and keep one person who may do all of it; so does the end
 * of a print that may not run unattended. Plates that are pinned keep their places, and others go round them; a pin that no
 * plan can keep is left out.
 *
 * <p>Times are seconds from the moment at which the view was taken, plates and machines are numbered as in the view, options
 * through all plates. An object is for one thread.
 */
public final class Timing {

    static final long NEVER = Long.MAX_VALUE / 4;
    private static final long PRESSING_START_S = 60;

    final FloorView view;
    final int plates;
    final int machines;

    // Options of plate j are those from firstOption[j] to firstOption[j + 1].
    final int[] firstOption;
    final int[] machineOf;
    private final Option[] options;
    private final int[] plateOf;
    private final long[] takes;
    private final long[] cools;
    private final int[] setupOf;
    private final int[] spoolOf;
    private final boolean[] unattended;
    private final long[] fixedCost;

    private final long[] release;
    private final long[] due;
    private final long[] weight;
    private final double[] patience;
    private final int[] pinnedOption;
    private final long[] pinnedStart;
    private final boolean[] published;
    private final long[] publishedStart;

    private final long[] ready;
    private final boolean[] coveredAtFirst;
    private final int[] setupAtFirst;
    private final long[] clear;
    private final long[][] changing;
    private final long[][][] down;
    private final Keeping[] keepingAtFirst;
    /** Plates that keep their places, in the order in which they start: of each machine, and of all. */
    private final int[][] pinsOf;
    private int[] pins = {};
    private final Pinned pinned;
    private final byte[][] changeBetween;
    private final int[] spoolOfSetup;
    private final int[] withoutSpool;

    private final long[] openFrom;
    private final long[] openTo;

    private final int[] may;
    private final long[][][] onDuty;
    private final long[][] limits;
    private final double[] stock;

    /** Whether what happens on one machine may depend on another. */
    final boolean coupled;
    private final long leftOut;
    /** The longest print. */
    final long longestS;

    // What stands at the machines, and what has been laid out so far.
    private final long[] free;
    private final boolean[] covered;
    private final int[] setup;
    private final Keeping[] keeping;
    /** Of each machine, what would be after a print that is only thought of. */
    private final Keeping[] then;
    private final int[] nextPin;
    private final long[] spoolFree;
    private final int[] spoolAt;
    private final double[] spoolLeft;
    private final Busy[] busy;
    private final Busy pieces = new Busy();
    final int[] chosen;
    final long[] work;
    final long[] start;
    final long[] end;
    private final long[] spent;
    private final Standing[] kept;
    private final Standing[] tried;
    private final int[] person;

    private final int[] engagedSkill;
    /** What is owed before each plate, to its machine. */
    private final int[] owed;
    /** The person found last. */
    private int who;
    /** What is owed before the start found last. */
    private int owing;

    public Timing(FloorView view) {
        this.view = view;
        List<Waiting> waiting = view.waiting();
        plates = waiting.size();
        machines = view.machines().size();
        Map<String, Integer> numbers = new HashMap<>();
        for (int i = 0; i < machines; i++) {
            numbers.put(view.machines().get(i).id(), i);
        }
        Map<Setup, Integer> setups = new LinkedHashMap<>();
        Map<String, Integer> spools = new LinkedHashMap<>();

        ready = new long[machines];
        coveredAtFirst = new boolean[machines];
        setupAtFirst = new int[machines];
        clear = new long[machines];
        changing = new long[machines][];
        down = new long[machines][][];
        keepingAtFirst = new Keeping[machines];
        for (int i = 0; i < machines; i++) {
            Machine machine = view.machines().get(i);
            ready[i] = machine.ready() == null ? NEVER : Math.max(0, at(machine.ready()));
            coveredAtFirst[i] = machine.covered();
            setupAtFirst[i] = setups.computeIfAbsent(machine.setup(), any -> setups.size());
            clear[i] = machine.handling().clear().toSeconds();
            changing[i] = new long[] {0, machine.handling().changeColour().toSeconds(), machine.handling().changeMaterial().toSeconds(),
                    machine.handling().changeNozzle().toSeconds()};
            down[i] = inOrder(machine.down());
            keepingAtFirst[i] = new Keeping(machine.chores(), view.now());
        }

        firstOption = new int[plates + 1];
        List<Option> all = new ArrayList<>();
        List<Integer> owners = new ArrayList<>();
        pinnedOption = filled(plates, -1);
        pinnedStart = new long[plates];
        published = new boolean[plates];
        publishedStart = new long[plates];
        release = new long[plates];
        due = new long[plates];
        weight = new long[plates];
        patience = new double[plates];
        for (int j = 0; j < plates; j++) {
            Waiting plate = waiting.get(j);
            firstOption[j] = all.size();
            for (Option option : plate.options()) {
                if (numbers.containsKey(option.machine())) {
                    if (plate.pinned() != null && pinnedOption[j] < 0 && plate.pinned().machine().equals(option.machine())) {
                        pinnedOption[j] = all.size();
                        pinnedStart[j] = at(plate.pinned().start());
                    }
                    all.add(option);
                    owners.add(j);
                }
            }
            if (plate.pinned() != null && pinnedOption[j] < 0) {
                pinnedOption[j] = all.size();
            }
            release[j] = plate.release() == null ? Long.MIN_VALUE / 4 : at(plate.release());
            due[j] = plate.due() == null ? NEVER : at(plate.due());
            weight[j] = plate.weight();
            patience[j] = plate.patience();
            published[j] = plate.published() != null;
            publishedStart[j] = plate.published() == null ? 0 : at(plate.published().start());
        }
        firstOption[plates] = all.size();
        options = all.toArray(Option[]::new);
        plateOf = owners.stream().mapToInt(Integer::intValue).toArray();
        machineOf = new int[options.length];
        takes = new long[options.length];
        cools = new long[options.length];
        setupOf = new int[options.length];
        spoolOf = new int[options.length];
        unattended = new boolean[options.length];
        fixedCost = new long[options.length];
        for (int o = 0; o < options.length; o++) {
            Option option = options[o];
            Waiting plate = waiting.get(plateOf[o]);
            machineOf[o] = Objects.requireNonNull(numbers.get(option.machine()));
            takes[o] = option.takes().toSeconds();
            cools[o] = option.cools().toSeconds();
            setupOf[o] = setups.computeIfAbsent(option.setup(), any -> setups.size());
            spoolOf[o] = option.setup().spool().isEmpty() ? -1 : spools.computeIfAbsent(option.setup().spool(), any -> spools.size());
            unattended[o] = option.unattended();
            fixedCost[o] = view.rules().reliability(option.failing(), takes[o]) + (plate.published() == null ? 0
                    : view.rules().stability(plate.published().machine().equals(option.machine()), 0, 0));
        }

        List.copyOf(setups.keySet()).stream().map(Setup::withoutSpool).forEach(any -> setups.computeIfAbsent(any, one -> setups.size()));
        List<Setup> inOrder = List.copyOf(setups.keySet());
        withoutSpool = inOrder.stream().mapToInt(any -> inOrder.indexOf(any.withoutSpool())).toArray();
        List<String> reels = List.copyOf(spools.keySet());
        spoolOfSetup = inOrder.stream().mapToInt(any -> reels.indexOf(any.spool())).toArray();
        changeBetween = new byte[setups.size()][setups.size()];
        setups.forEach((from, i) -> setups.forEach((to, k) -> changeBetween[i][k] = (byte) (from.changeTo(to).ordinal() + (from.sameNozzle(to) ? 0 : 4))));
        pinsOf = new int[machines][0];
        long[][] open = widest(inOrder(view.staffed()));
        openFrom = Arrays.stream(open).mapToLong(span -> span[0]).toArray();
        openTo = Arrays.stream(open).mapToLong(span -> span[1]).toArray();
        may = view.people().stream().mapToInt(one -> one.may().stream().mapToInt(task -> 1 << task.ordinal()).sum()).toArray();
        onDuty = view.people().stream().map(one -> widest(inOrder(one.onDuty()))).toArray(long[][][]::new);
        limits = view.limits().stream().filter(limit -> limit.during().from().isBefore(limit.during().to()))
                .map(limit -> new long[] {at(limit.during().from()), at(limit.during().to()), limit.pieces()}).toArray(long[][]::new);
        stock = new double[spools.size()];
        int[] seenAt = filled(spools.size(), -1);
        boolean shared = false;
        for (int o = 0; o < options.length; o++) {
            if (spoolOf[o] >= 0) {
                stock[spoolOf[o]] = view.stock().getOrDefault(options[o].setup().spool(), Double.POSITIVE_INFINITY);
                shared |= seenAt[spoolOf[o]] >= 0 && seenAt[spoolOf[o]] != machineOf[o] || stock[spoolOf[o]] < Double.POSITIVE_INFINITY;
                seenAt[spoolOf[o]] = machineOf[o];
            }
        }
        coupled = may.length > 0 || limits.length > 0 || shared;
        longestS = Arrays.stream(takes).max().orElse(0);
        leftOut = Math.max(1L << 40, Long.MAX_VALUE / 8 / (plates + 1));

        free = new long[machines];
        covered = new boolean[machines];
        setup = new int[machines];
        keeping = copies(keepingAtFirst);
        then = copies(keepingAtFirst);
        nextPin = new int[machines];
        spoolFree = new long[spools.size()];
        spoolAt = new int[spools.size()];
        spoolLeft = new double[spools.size()];
        busy = new Busy[may.length];
        Arrays.setAll(busy, any -> new Busy());
        chosen = new int[plates];
        work = new long[plates];
        start = new long[plates];
        end = new long[plates];
        spent = new long[machines];
        kept = new Standing[coupled ? 0 : plates];
        Arrays.setAll(kept, any -> new Standing());
        tried = new Standing[kept.length];
        Arrays.setAll(tried, any -> new Standing());
        person = filled(plates, -1);
        engagedSkill = new int[plates];
        owed = new int[plates];
        pinned = new Pinned();
        keepPins(IntStream.range(0, plates).filter(j -> pinnedOption[j] >= 0 && pinnedOption[j] < firstOption[j + 1]).boxed()
                .sorted(Comparator.comparingLong(j -> pinnedStart[j])).mapToInt(Integer::intValue).toArray());
    }

    /** Leaves out pins that cannot be kept, one after another as they are to start. */
    private void keepPins(int[] wanted) {
        reset();
        for (int j : wanted) {
            int o = pinnedOption[j], i = machineOf[o], spool = coupled ? spoolOf[o] : -1;
            boolean spoolIsThere = spool < 0 || options[o].grams() <= spoolLeft[spool]
                    && (pinned.spoolAt[spool] == i || pinned.spoolFree[spool] <= pinnedStart[j] - workFor(o, pinned.covered[i], pinned.setup[i])
                            - pinned.keeping[i].lasts(pinned.keeping[i].owed(pinnedStart[j])));
            if (spoolIsThere && keeps(j, pinned.free[i], pinned.covered[i], pinned.setup[i], pinned.keeping[i])) {
                pinsOf[i] = with(pinsOf[i], j);
                pins = with(pins, j);
                pinned.engage(j);
            }
        }
    }

    private static Keeping[] copies(Keeping[] some) {
        return Arrays.stream(some).map(Keeping::copy).toArray(Keeping[]::new);
    }

    private static int[] with(int[] some, int one) {
        int[] more = Arrays.copyOf(some, some.length + 1);
        more[some.length] = one;
        return more;
    }

    /** How machines and spools stand after all that is pinned, with nothing else between. */
    private final class Pinned {

        private final long[] free = new long[machines];
        private final boolean[] covered = new boolean[machines];
        private final int[] setup = new int[machines];
        private final Keeping[] keeping = copies(keepingAtFirst);
        private final long[] spoolFree = new long[stock.length];
        private final int[] spoolAt = new int[stock.length];

        /** Keeps people and plastic for each pin in turn. */
        void engageAll() {
            System.arraycopy(ready, 0, free, 0, machines);
            System.arraycopy(coveredAtFirst, 0, covered, 0, machines);
            System.arraycopy(setupAtFirst, 0, setup, 0, machines);
            for (int i = 0; i < machines; i++) {
                keeping[i].as(keepingAtFirst[i]);
            }
            System.arraycopy(Timing.this.spoolFree, 0, spoolFree, 0, stock.length);
            System.arraycopy(Timing.this.spoolAt, 0, spoolAt, 0, stock.length);
            for (int j : pins) {
                engage(j);
            }
        }

        private void engage(int j) {
            int o = pinnedOption[j], i = machineOf[o], spool = spoolOf[o];
            engagePin(j, covered[i], setup[i], keeping[i]);
            keeping[i].print(keeping[i].owed(pinnedStart[j]), pinnedStart[j], takes[o]);
            free[i] = pinnedStart[j] + takes[o] + cools[o];
            covered[i] = true;
            setup[i] = setupOf[o];
            if (spool >= 0) {
                spoolLeft[spool] -= options[o].grams();
                int from = spoolAt[spool];
                if (from >= 0 && from != i && spoolOfSetup[setup[from]] == spool) {
                    setup[from] = withoutSpool[setup[from]];
                }
                spoolAt[spool] = i;
                spoolFree[spool] = pinnedStart[j] + takes[o];
            }
        }
    }

    private long at(Instant moment) {
        return moment.getEpochSecond() - view.now().getEpochSecond();
    }

    private static int[] filled(int size, int with) {
        int[] filled = new int[size];
        Arrays.fill(filled, with);
        return filled;
    }

    private long[][] inOrder(List<Span> spans) {
        return spans.stream().map(span -> new long[] {at(span.from()), at(span.to())}).filter(span -> span[0] <= span[1])
                .sorted(Comparator.<long[]>comparingLong(span -> span[0]).thenComparing(span -> -span[1])).toArray(long[][]::new);
    }

    /** Without those that lie in others: then their ends are in order as well. */
    private static long[][] widest(long[][] spans) {
        List<long[]> widest = new ArrayList<>();
        for (long[] span : spans) {
            if (widest.isEmpty() || widest.getLast()[1] < span[1]) {
                widest.add(span);
            }
        }
        return widest.toArray(long[][]::new);
    }

    /** Plates that can be printed somewhere and are not pinned, those that are needed first before others. */
    int[] movable() {
        return IntStream.range(0, plates).filter(j -> !isPinned(j) && firstOption[j] < firstOption[j + 1]).boxed()
                .sorted(Comparator.<Integer>comparingLong(j -> due[j]).thenComparing(j -> -weight[j])).mapToInt(Integer::intValue).toArray();
    }

    /** The same, those that were published first, as they were to start; none when nothing was published. */
    int[] asPublished() {
        int[] all = movable();
        return Arrays.stream(all).noneMatch(j -> published[j]) ? new int[0] : Arrays.stream(all).boxed()
                .sorted(Comparator.comparing((Integer j) -> published[j] ? publishedStart[j] : NEVER)).mapToInt(Integer::intValue).toArray();
    }

    /** The way in which a plate was to be printed by the plan that was published; -1 when it was not, or cannot be any more. */
    int publishedOption(int j) {
        Place place = view.waiting().get(j).published();
        return place == null ? -1 : IntStream.range(firstOption[j], firstOption[j + 1])
                .filter(o -> options[o].machine().equals(place.machine()) && ready[machineOf[o]] != NEVER).findFirst().orElse(-1);
    }

    boolean isPinned(int plate) {
        return pinnedOption[plate] >= 0;
    }

    /** The first way to print a plate on a machine; -1 for none. */
    public int optionOn(int j, int machine) {
        for (int o = firstOption[j]; o < firstOption[j + 1]; o++) {
            if (machineOf[o] == machine) {
                return o;
            }
        }
        return -1;
    }

    /** What a plan is charged for a plate that it leaves out: more than any that leaves nothing out costs. */
    public long leftOut() {
        return leftOut;
    }

    /** Everything as it is now, with nothing laid out but what is pinned. */
    void reset() {
        Arrays.fill(chosen, -1);
        pieces.clear();
        for (Busy one : busy) {
            one.clear();
        }
        Arrays.fill(spoolFree, 0);
        Arrays.fill(spoolAt, -1);
        System.arraycopy(stock, 0, spoolLeft, 0, stock.length);
        for (int i = 0; i < machines; i++) {
            reset(i);
            int spool = spoolOfSetup[setup[i]];
            if (spool >= 0) {
                spoolAt[spool] = i;
                spoolFree[spool] = ready[i] == NEVER ? 0 : ready[i];
            }
        }
        pinned.engageAll();
    }

    /** One machine as it is now; all there is to do on floors on which no machine depends on another. */
    private void reset(int machine) {
        free[machine] = ready[machine];
        covered[machine] = coveredAtFirst[machine];
        setup[machine] = setupAtFirst[machine];
        keeping[machine].as(keepingAtFirst[machine]);
        nextPin[machine] = 0;
        spent[machine] = 0;
    }

    /**
     * Lays out plates of one machine of a floor on which no machine depends on another.
     *
     * @param from where the sequence begins to differ from the one that was kept last
     * @param most when it is clear that they cost more than this, the rest is not laid out
     * @return what they cost together with what is pinned there
     */
    public long lay(int machine, int[] sequence, int from, int length, int[] option, long most) {
        if (from == 0) {
            reset(machine);
        } else {
            kept[sequence[from - 1]].restore(machine);
        }
        for (int i = from; i < length && spent[machine] <= most; i++) {
            place(sequence[i], option[sequence[i]]);
            tried[sequence[i]].note(machine);
        }
        return finish(machine);
    }

    /** Keeps what was laid out last on a machine, from a place in its sequence on. */
    void keep(int[] sequence, int from, int length) {
        for (int i = from; i < length; i++) {
            int j = sequence[i];
            Standing was = kept[j];
            kept[j] = tried[j];
            tried[j] = was;
        }
    }

    /**
     * Lays out plates in an order; those that are pinned are not among them.
     *
     * @param most when it is clear that they cost more than this, the rest is not laid out
     */
    long lay(int[] order, int length, int[] option, long most) {
        reset();
        long sum = 0;
        for (int i = 0; i < length && sum <= most; i++) {
            int machine = machineOf[option[order[i]]];
            long before = spent[machine];
            place(order[i], option[order[i]]);
            sum += spent[machine] - before;
        }
        return finish();
    }

    /** Lays out what is still pinned, on all machines; what everything costs. */
    long finish() {
        for (int j : pins) {
            int machine = machineOf[pinnedOption[j]];
            if (nextPin[machine] < pinsOf[machine].length && pinsOf[machine][nextPin[machine]] == j) {
                passPin(machine);
            }
        }
        return Arrays.stream(spent).sum();
    }

    private long finish(int machine) {
        while (nextPin[machine] < pinsOf[machine].length) {
            passPin(machine);
        }
        return spent[machine];
    }

    /** How a machine stands after a plate. */
    private final class Standing {

        private long freeAfter;
        private boolean coveredAfter;
        private int setupAfter;
        private @Nullable Keeping keepingAfter;
        private int nextPinAfter;
        private long spentAfter;

        void note(int machine) {
            freeAfter = free[machine];
            coveredAfter = covered[machine];
            setupAfter = setup[machine];
            keepingAfter = keeping[machine].copy();
            nextPinAfter = nextPin[machine];
            spentAfter = spent[machine];
        }

        void restore(int machine) {
            free[machine] = freeAfter;
            covered[machine] = coveredAfter;
            setup[machine] = setupAfter;
            keeping[machine].as(Objects.requireNonNull(keepingAfter));
            nextPin[machine] = nextPinAfter;
            spent[machine] = spentAfter;
        }
    }

    private void passPin(int machine) {
        int j = pinsOf[machine][nextPin[machine]++], o = pinnedOption[j];
        disengage(j);
        if (spoolOf[o] >= 0) {
            spoolLeft[spoolOf[o]] += options[o].grams();
        }
        owing = keeping[machine].owed(pinnedStart[j]);
        settle(j, o, pinnedStart[j]);
    }

    /** Whether a pinned plate can start when it is to, on a bed and a machine that stand so from a moment on. */
    private boolean keeps(int j, long from, boolean lies, int standing, Keeping kept) {
        int o = pinnedOption[j], owes = kept.owed(pinnedStart[j]);
        long needs = workFor(o, lies, standing) + kept.lasts(owes), at = pinnedStart[j] - needs;
        return at >= from && pinnedStart[j] >= release[j] && earliest(o, at, needs, skillFor(o, lies, standing) | kept.skill(owes)) == at;
    }

    /** Whether the next plate that is pinned on a machine keeps its place when the machine stands so from a moment on. */
    private boolean leavesPin(int machine, long from, boolean lies, int standing, Keeping kept) {
        if (nextPin[machine] == pinsOf[machine].length) {
            return true;
        }
        int j = pinsOf[machine][nextPin[machine]];
        if (!coupled) {
            return keeps(j, from, lies, standing, kept);
        }
        disengage(j);
        boolean keeps = keeps(j, from, lies, standing, kept);
        engage(j, engagedSkill[j], work[j], pinnedStart[j] - work[j]);
        return keeps;
    }

    /** The next plate that is pinned on a machine is made ready from how the machine stands now. */
    private void renewPin(int machine) {
        if (coupled && nextPin[machine] < pinsOf[machine].length) {
            int j = pinsOf[machine][nextPin[machine]];
            disengage(j);
            engagePin(j, covered[machine], setup[machine], keeping[machine]);
        }
    }

    private void engagePin(int j, boolean lies, int standing, Keeping kept) {
        int o = pinnedOption[j], owes = kept.owed(pinnedStart[j]);
        long needs = workFor(o, lies, standing) + kept.lasts(owes);
        engage(j, skillFor(o, lies, standing) | kept.skill(owes), pinnedStart[j] - needs, needs);
    }

    private void engage(int j, int need, long from, long needs) {
        work[j] = from;
        engagedSkill[j] = need;
        if (may.length > 0) {
            hands(need, from, needs);
            person[j] = who;
            busy[who].add(from, from + needs + PRESSING_START_S);
        }
        if (limits.length > 0) {
            pieces.add(from, from + needs + PRESSING_START_S);
        }
    }

    private void disengage(int j) {
        if (may.length > 0) {
            busy[person[j]].remove(work[j], pinnedStart[j] + PRESSING_START_S);
        }
        if (limits.length > 0) {
            pieces.remove(work[j], pinnedStart[j] + PRESSING_START_S);
        }
    }

    private long changeFor(int o, int standing) {
        int change = changeBetween[standing][setupOf[o]];
        long[] durations = changing[machineOf[o]];
        return durations[change & 3] + ((change & 4) != 0 ? durations[3] : 0);
    }

    private long workFor(int o, boolean lies, int standing) {
        return changeFor(o, standing) + (lies ? clear[machineOf[o]] : 0);
    }

    private int skillFor(int o, boolean lies, int standing) {
        int change = changeBetween[standing][setupOf[o]];
        return 1 << Task.START.ordinal() | ((change & 3) != 0 ? 1 << Task.CHANGE_FILAMENT.ordinal() : 0)
                | ((change & 4) != 0 ? 1 << Task.CHANGE_NOZZLE.ordinal() : 0) | (lies ? 1 << Task.CLEAR.ordinal() : 0);
    }

    /** Lays out a plate behind what its machine has got so far; whether there is a place for it. */
    boolean place(int j, int o) {
        chosen[j] = -1;
        long at = startOf(o);
        if (at == NEVER) {
            spent[machineOf[o]] += leftOut;
            return false;
        }
        settle(j, o, at);
        return true;
    }

    /** What a plate would cost behind what its machine has got so far; more than any plan where there is no place. */
    long wouldCost(int o) {
        long at = startOf(o);
        return at == NEVER ? leftOut : cost(o, at, changeFor(o, setup[machineOf[o]]));
    }

    /** The earliest start behind what a machine has got so far, and what is owed before it; pins that come before it are laid out. */
    private long startOf(int o) {
        int machine = machineOf[o], spool = coupled ? spoolOf[o] : -1;
        if (spool >= 0 && options[o].grams() > spoolLeft[spool] || spool >= 0 && !comesOff(spool, machine)) {
            return NEVER;
        }
        while (true) {
            long from = spool >= 0 && spoolAt[spool] != machine ? Math.max(free[machine], spoolFree[spool]) : free[machine];
            long at = earliestStart(o, from);
            if (at != NEVER && leavesPin(machine, at + takes[o] + cools[o], true, setupOf[o], after(machine, at, takes[o]))) {
                return at;
            }
            if (nextPin[machine] == pinsOf[machine].length) {
                return NEVER;
            }
            passPin(machine);
        }
    }

    /** The earliest start on a machine as it stands, with all that is owed to it by then. */
    private long earliestStart(int o, long from) {
        int machine = machineOf[o], skill = skillFor(o, covered[machine], setup[machine]);
        long work = workFor(o, covered[machine], setup[machine]);
        int owes = keeping[machine].owed(from);
        while (true) {
            long needs = work + keeping[machine].lasts(owes), at = earliest(o, from, needs, skill | keeping[machine].skill(owes));
            if (at == NEVER) {
                return NEVER;
            }
            owing = keeping[machine].owed(at + needs);
            if (owing == owes) {
                return at + needs;
            }
            owes = owing;
        }
    }

    private Keeping after(int machine, long at, long lasts) {
        then[machine].as(keeping[machine]);
        then[machine].print(owing, at, lasts);
        return then[machine];
    }

    /** Whether a spool can be had for a machine: nothing that is pinned on another counts on finding it there, or will take it. */
    private boolean comesOff(int spool, int machine) {
        for (int i = 0; i < machines; i++) {
            while (i != machine && nextPin[i] < pinsOf[i].length && pinsUse(i, spool)) {
                passPin(i);
            }
        }
        int at = spoolAt[spool];
        return at < 0 || at == machine || spoolOfSetup[setup[at]] != spool || leavesPin(at, free[at], covered[at], withoutSpool[setup[at]], keeping[at]);
    }

    private boolean pinsUse(int machine, int spool) {
        for (int i = nextPin[machine]; i < pinsOf[machine].length; i++) {
            if (spoolOf[pinnedOption[pinsOf[machine][i]]] == spool) {
                return true;
            }
        }
        return false;
    }

    private void settle(int j, int o, long at) {
        int machine = machineOf[o];
        long changeS = changeFor(o, setup[machine]), needs = workFor(o, covered[machine], setup[machine]) + keeping[machine].lasts(owing);
        chosen[j] = o;
        owed[j] = owing;
        work[j] = at - needs;
        start[j] = at;
        end[j] = at + takes[o];
        spent[machine] += cost(o, at, changeS);
        if (coupled) {
            engage(j, skillFor(o, covered[machine], setup[machine]) | keeping[machine].skill(owing), at - needs, needs);
        }
        keeping[machine].print(owing, at, takes[o]);
        free[machine] = end[j] + cools[o];
        covered[machine] = true;
        setup[machine] = setupOf[o];
        if (coupled && spoolOf[o] >= 0) {
            take(spoolOf[o], machine, end[j], options[o].grams());
        }
        renewPin(machine);
    }

    private void take(int spool, int machine, long until, double grams) {
        int from = spoolAt[spool];
        if (from >= 0 && from != machine && spoolOfSetup[setup[from]] == spool) {
            setup[from] = withoutSpool[setup[from]];
            renewPin(from);
        }
        spoolFree[spool] = until;
        spoolAt[spool] = machine;
        spoolLeft[spool] -= grams;
    }

    private long cost(int o, long at, long changeS) {
        Rules rules = view.rules();
        int j = plateOf[o];
        long until = at + takes[o];
        long sum = fixedCost[o] + rules.lateness(weight[j], due[j], until) + rules.changes(changeS) + rules.earlyFinish(until);
        if (patience[j] > 0) {
            sum += rules.fairness(patience[j], until);
        }
        return published[j] ? sum + rules.stability(true, at, publishedStart[j]) : sum;
    }

    /** The earliest moment from one on at which work can begin; {@link #NEVER} when there is none. */
    private long earliest(int o, long from, long needs, int need) {
        long at = Math.max(from, release[plateOf[o]] - needs);
        while (true) {
            at = open(machineOf[o], o, at, needs);
            if (at == NEVER || !coupled) {
                return at;
            }
            long with = may.length == 0 ? at : hands(need, at, needs);
            with = limits.length == 0 || with == NEVER ? with : within(with, needs);
            if (with == at || with == NEVER) {
                return with;
            }
            at = with;
        }
    }

    /** The earliest at which hours and down times leave room. */
    private long open(int machine, int o, long from, long needs) {
        long at = from;
        int i = Arrays.binarySearch(openTo, at + needs);
        if (i < 0) {
            i = -1 - i;
        }
        for (; i < openFrom.length; i++) {
            at = Math.max(at, openFrom[i]);
            boolean moved = true;
            while (moved && at + needs + (unattended[o] ? 0 : takes[o]) <= openTo[i]) {
                moved = false;
                for (long[] span : down[machine]) {
                    if (at < span[1] && span[0] < at + needs + takes[o]) {
                        at = span[1];
                        moved = true;
                    }
                }
                if (!moved) {
                    return at;
                }
            }
        }
        return NEVER;
    }

    /** The earliest at which one person who may do all of it is free; sets who that is, the least able first. */
    private long hands(int need, long from, long needs) {
        long best = NEVER;
        for (int p = 0; p < may.length; p++) {
            if ((may[p] & need) == need) {
                long at = firstFree(p, from, needs);
                if (at < best || at == best && at != NEVER && Integer.bitCount(may[p]) < Integer.bitCount(may[who])) {
                    best = at;
                    who = p;
                }
            }
        }
        return best;
    }

    private long firstFree(int p, long from, long needs) {
        long[][] spans = onDuty[p];
        for (int i = firstEnding(spans, from + needs); i < spans.length; i++) {
            long at = busy[p].after(Math.max(from, spans[i][0]), needs + PRESSING_START_S);
            if (at + needs <= spans[i][1]) {
                return at;
            }
        }
        return NEVER;
    }

    /** The first of some stretches in order that does not end before a moment. */
    private static int firstEnding(long[][] spans, long moment) {
        int low = 0, high = spans.length;
        while (low < high) {
            int middle = (low + high) >>> 1;
            if (spans[middle][1] < moment) {
                low = middle + 1;
            } else {
                high = middle;
            }
        }
        return low;
    }

    /** The earliest at which no limit is passed. */
    private long within(long from, long needs) {
        long at = from;
        boolean moved = true;
        while (moved) {
            moved = false;
            for (long[] limit : limits) {
                long next = limit[0] < at + needs + PRESSING_START_S && at < limit[1] ? pieces.afterMost(at, needs + PRESSING_START_S, limit) : at;
                moved |= next > at;
                at = next;
            }
        }
        return at;
    }

    /** A plan, as slots. */
    Schedule schedule(Annealing.Plan plan) {
        if (coupled) {
            lay(plan.order(), plan.order().length, plan.option(), Long.MAX_VALUE);
        } else {
            reset();
            for (int i = 0; i < machines; i++) {
                lay(i, plan.sequences()[i], 0, plan.sequences()[i].length, plan.option(), Long.MAX_VALUE);
            }
        }
        return schedule();
    }

    /** For each plate the way in which it is printed in a plan; -1 for one that is not. */
    int[] optionsOf(Schedule plan) {
        int[] of = filled(plates, -1);
        for (int j = 0; j < plates; j++) {
            Optional<Slot> slot = plan.of(view.waiting().get(j).plate());
            for (int o = firstOption[j]; slot.isPresent() && o < firstOption[j + 1]; o++) {
                if (options[o].machine().equals(slot.get().machine()) && options[o].setup().equals(slot.get().setup())) {
                    of[j] = o;
                }
            }
        }
        return of;
    }

    /** Plates of a plan that are not pinned, in the order in which work at them begins. */
    int[] orderOf(Schedule plan) {
        Map<Long, Instant> begins = new HashMap<>();
        plan.slots().forEach(slot -> begins.put(slot.plate(), slot.work()));
        return Arrays.stream(movable()).filter(j -> begins.containsKey(view.waiting().get(j).plate())).boxed()
                .sorted(Comparator.comparing(j -> begins.get(view.waiting().get(j).plate()))).mapToInt(Integer::intValue).toArray();
    }

    /** Lets a print take another time than the view says. */
    void takes(int o, long seconds) {
        takes[o] = seconds;
    }

    /** Lets a machine be ready at another moment than the view says. */
    void ready(int machine, long seconds) {
        ready[machine] = seconds;
    }

    /** What has been laid out, as slots. */
    Schedule schedule() {
        List<Slot> slots = new ArrayList<>();
        for (int j = 0; j < plates; j++) {
            if (chosen[j] >= 0) {
                Option option = options[chosen[j]];
                long until = end[j] + cools[chosen[j]];
                int i = Arrays.binarySearch(openTo, until);
                i = i < 0 ? -1 - i : i;
                long handOut = i < openFrom.length ? Math.max(until, openFrom[i]) : until;
                slots.add(new Slot(view.waiting().get(j).plate(), option.machine(), option.setup(), personFor(j), moment(work[j]), moment(start[j]),
                        moment(end[j]), moment(handOut), keepingAtFirst[machineOf[chosen[j]]].named(owed[j])));
            }
        }
        return new Schedule(slots);
    }

    private Instant moment(long seconds) {
        return view.now().plusSeconds(seconds);
    }

    private @Nullable String personFor(int j) {
        return person[j] < 0 ? null : view.people().get(person[j]).name();
    }

    /** Stretches of time that are taken, by when they begin. */
    private static final class Busy {

        private long[] from = new long[8];
        private long[] to = new long[8];
        private int size;

        void clear() {
            size = 0;
        }

        void add(long begins, long ends) {
            if (size == from.length) {
                from = Arrays.copyOf(from, 2 * size);
                to = Arrays.copyOf(to, 2 * size);
            }
            int i = size++;
            while (i > 0 && from[i - 1] > begins) {
                from[i] = from[i - 1];
                to[i] = to[i - 1];
                i--;
            }
            from[i] = begins;
            to[i] = ends;
        }

        void remove(long begins, long ends) {
            int i = 0;
            while (from[i] != begins || to[i] != ends) {
                i++;
            }
            size--;
            System.arraycopy(from, i + 1, from, i, size - i);
            System.arraycopy(to, i + 1, to, i, size - i);
        }

        /** The earliest from a moment on at which nothing is taken for so long; none of what is taken may overlap. */
        long after(long moment, long length) {
            long at = moment;
            int found = Arrays.binarySearch(from, 0, size, moment);
            for (int i = Math.max(0, found < 0 ? -2 - found : found - 1); i < size && from[i] < at + length; i++) {
                if (to[i] > at) {
                    at = to[i];
                }
            }
            return at;
        }

        /** The earliest from a moment on at which another stretch so long keeps within a limit. */
        long afterMost(long moment, long length, long[] limit) {
            long at = moment;
            while (at < limit[1] && limit[0] < at + length && most(Math.max(at, limit[0]), Math.min(at + length, limit[1])) >= limit[2]) {
                long next = limit[1];
                for (int i = 0; i < size; i++) {
                    if (to[i] > at && to[i] < next) {
                        next = to[i];
                    }
                }
                at = next;
            }
            return at;
        }

        /** How many at once at most in a stretch of time. */
        private int most(long begins, long ends) {
            int most = 0;
            for (int i = 0; i < size; i++) {
                long at = Math.max(begins, from[i]);
                if (at < ends && to[i] > at) {
                    int here = 0;
                    for (int k = 0; k < size; k++) {
                        here += from[k] <= at && to[k] > at ? 1 : 0;
                    }
                    most = Math.max(most, here);
                }
            }
            return most;
        }
    }
}
