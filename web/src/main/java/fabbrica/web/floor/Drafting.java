package fabbrica.web.floor;

import fabbrica.core.schedule.FloorView.Option;
import fabbrica.core.schedule.NeighbourhoodSearch;
import fabbrica.core.schedule.Rules;
import fabbrica.core.schedule.Schedule;
import fabbrica.core.schedule.Schedule.Slot;
import fabbrica.core.schedule.Scheduler;
import fabbrica.core.schedule.Tally;
import fabbrica.web.floor.FloorPlans.Desk;
import fabbrica.web.plan.Elsewhere;
import fabbrica.web.plan.Elsewhere.Possible;
import fabbrica.web.plan.LaidPlate;
import fabbrica.web.plan.Way;
import fabbrica.web.platform.Refusal;
import jakarta.annotation.PreDestroy;
import java.time.Duration;
import java.util.ArrayDeque;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Optional;
import java.util.Queue;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.concurrent.atomic.AtomicInteger;
import java.util.concurrent.atomic.AtomicReference;
import java.util.stream.Stream;
import org.jspecify.annotations.Nullable;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.stereotype.Component;

/**
 * Looks for floor plans, beside the pages: a first one at once, as if what nobody has worked out yet took as long on one printer as
 * on another; a better one once all is worked out. After something went wrong one that keeps to what was planned as far as may be.
 */
@Component
class Drafting {

    private static final Logger LOG = LoggerFactory.getLogger(Drafting.class);
    private static final Duration LOOKING_AROUND = Duration.ofMillis(300);
    private static final Duration AT_ONCE = Duration.ofMillis(300);
    private static final Duration AT_LEISURE = Duration.ofSeconds(3);
    private static final Duration A_MOMENT = Duration.ofMillis(500);
    /** Of each moment: whether a crowd of plates is worked out must not take a core. */
    private static final Duration A_LOOK = Duration.ofMillis(100);
    private static final int MOST_MOMENTS = 600;
    private static final Comparator<FloorPlan> BETTER = Comparator.comparingLong(Drafting::harm)
            .thenComparingLong(plan -> Tally.of(plan.view(), plan.schedule()).sum());

    private final FloorPlans plans;
    private final Elsewhere elsewhere;
    private final Scheduler search = new NeighbourhoodSearch(Math.min(4, Runtime.getRuntime().availableProcessors()), 1);
    private final ExecutorService beside = Executors.newSingleThreadExecutor(Thread.ofPlatform().daemon().name("floor-plan").factory());
    private final AtomicInteger asked = new AtomicInteger();
    /** What has happened since a plan was mended last; null when nothing has. */
    private final AtomicReference<@Nullable String> upset = new AtomicReference<>();
    private volatile boolean looking;

    Drafting(FloorPlans plans, Elsewhere elsewhere) {
        this.plans = plans;
        this.elsewhere = elsewhere;
    }

    /** Whether a plan is being looked for. */
    boolean isLooking() {
        return looking;
    }

    /** Looks for the best plan there is; whatever was drafted before is the step before it. */
    void plan(String who) {
        beside(() -> {
            looking = true;
            Desk desk = plans.desk();
            Ways ways = new Ways(desk);
            ways.lookAround(LOOKING_AROUND);
            FloorPlan first = searched(desk.plan(), ways, Rules.OF_A_LAB, AT_ONCE);
            plans.draft(desk, first, "planned anew", who);
            long draft = plans.desk().stand().draft();
            if (ways.complete()) {
                FloorPlan asKnown = ways.known(first), better = searched(asKnown, ways, Rules.OF_A_LAB, AT_LEISURE);
                plans.better(draft, BETTER.compare(better, asKnown) < 0 ? better : asKnown);
            }
        });
    }

    /**
     * Looks for a plan after something went wrong; there is none while nothing was published, and where nobody is better off by it.
     *
     * @param what happened, a phrase
     */
    void mend(String what) {
        if (upset.getAndSet(what) == null) {
            beside(() -> mendWhat(Objects.requireNonNull(upset.getAndSet(null))));
        }
    }

    private void mendWhat(String happened) {
        Desk desk = plans.desk();
        if (desk.publication().isPresent() && harm(desk.plan()) > 0) {
            looking = true;
            Ways ways = new Ways(desk);
            ways.lookAround(LOOKING_AROUND);
            boolean first = mend(desk, desk.plan(), ways, happened);
            long draft = plans.desk().stand().draft();
            if (ways.isOpen() && ways.complete()) {
                Desk then = plans.desk();
                if (!first) {
                    mend(then, then.plan(), ways, happened);
                } else if (then.stand().draft() == draft) {
                    FloorPlan asKnown = ways.known(then.plan()), better = searched(asKnown, ways, Rules.OF_A_LAB_MENDING, AT_ONCE);
                    plans.better(draft, harm(better) < harm(asKnown) ? better : asKnown);
                }
            }
        }
    }

    /** @return whether somebody is better off by a new draft */
    private boolean mend(Desk desk, FloorPlan hit, Ways ways, String what) {
        FloorPlan mended = searched(hit, ways, Rules.OF_A_LAB_MENDING, AT_ONCE);
        boolean better = harm(mended) < harm(hit);
        if (better) {
            plans.draft(desk, mended, what, "");
        }
        return better;
    }

    /** What a plan does to people: minutes late, by weight; what has no place weighs more than all of them. */
    private static long harm(FloorPlan plan) {
        long nowhere = plan.placed().size() - plan.schedule().slots().size();
        return nowhere * (Long.MAX_VALUE / 10_000) + Tally.of(plan.view(), plan.schedule()).lateness();
    }

    private void beside(Runnable work) {
        asked.incrementAndGet();
        beside.execute(() -> {
            try {
                work.run();
                if (looking) {
                    looking = false;
                    plans.refresh();
                }
            } catch (Refusal somebodyElseCameFirst) {
                LOG.info("no floor plan: {}", somebodyElseCameFirst.getMessage());
            } catch (RuntimeException e) {
                if (!beside.isShutdown()) {
                    LOG.error("no floor plan", e);
                }
            } finally {
                looking = false;
                asked.decrementAndGet();
            }
        });
    }

    private FloorPlan searched(FloorPlan base, Ways ways, Rules rules, Duration budget) {
        Schedule found = search.plan(base.open(ways.options()).by(rules), budget);
        List<Placed> placed = new ArrayList<>(found.slots().stream().sorted(Comparator.comparing(Slot::work)).map(slot -> {
            Placed before = base.one(slot.plate());
            return before.on(slot.machine()) ? before : before.with(ways.of(slot.plate(), slot.machine()));
        }).toList());
        base.placed().stream().filter(one -> found.of(one.plate()).isEmpty()).forEach(placed::add);
        return base.with(placed);
    }

    /** How each plate that waits can be printed, as far as that is known. */
    private final class Ways {

        private final Desk desk;
        private final Map<Long, List<Possible>> of = new HashMap<>();
        private final Queue<LaidPlate> toAskAgain = new ArrayDeque<>();

        Ways(Desk desk) {
            this.desk = desk;
        }

        /** Looks at one plate after another until time is up, first at those that are late or have no place; what is to be worked out is begun. */
        void lookAround(Duration time) {
            long until = System.nanoTime() + time.toNanos();
            desk.plan().floor().waiting().stream().sorted(Comparator.comparing(plate -> !desk.plan().late(plate.id()) && desk.plan().slot(plate.id()).isPresent()))
                    .takeWhile(plate -> System.nanoTime() < until).forEach(this::look);
        }

        /** Waits until all is worked out; false when something else is to be looked for meanwhile. */
        boolean complete() {
            for (int moment = 0; moment < MOST_MOMENTS && asked.get() == 1; moment++) {
                if (!isOpen()) {
                    return true;
                }
                if (toAskAgain.isEmpty()) {
                    toAskAgain.addAll(open().toList());
                }
                for (long until = System.nanoTime() + A_LOOK.toNanos(); !toAskAgain.isEmpty() && System.nanoTime() < until;) {
                    look(toAskAgain.remove());
                }
                try {
                    Thread.sleep(A_MOMENT);
                } catch (InterruptedException e) {
                    Thread.currentThread().interrupt();
                    return false;
                }
            }
            return false;
        }

        /** Whether something is still to be worked out. */
        boolean isOpen() {
            return open().findAny().isPresent();
        }

        private Stream<LaidPlate> open() {
            return desk.plan().floor().waiting().stream().filter(plate -> Optional.ofNullable(of.get(plate.id()))
                    .map(all -> all.stream().anyMatch(each -> each.stopped().isEmpty() && each.way().isEmpty())).orElse(true));
        }

        private void look(LaidPlate plate) {
            of.put(plate.id(), elsewhere.ways(plate, desk.plan().floor()));
        }

        Map<Long, List<Option>> options() {
            Map<Long, List<Option>> options = new HashMap<>();
            of.keySet().forEach(plate -> options.put(plate, all(plate).map(desk.plan().floor()::option).toList()));
            return options;
        }

        Way of(long plate, String printerId) {
            return all(plate).filter(way -> way.printerId().equals(printerId)).findFirst().orElseThrow();
        }

        /** What is not worked out yet is taken to be as it is where the plate waits. */
        private Stream<Way> all(long plate) {
            return Objects.requireNonNull(of.get(plate)).stream().filter(each -> each.stopped().isEmpty())
                    .map(each -> each.way().orElseGet(() -> desk.plan().plate(plate).way().at(each.printer().id())));
        }

        /** A plan with what is known by now of each way that it takes. */
        FloorPlan known(FloorPlan plan) {
            return plan.with(plan.placed().stream().map(one -> of.getOrDefault(one.plate(), List.of()).stream().filter(each -> one.on(each.printer().id()))
                    .map(Possible::way).flatMap(Optional::stream).findFirst().map(one::with).orElse(one)).toList());
        }
    }

    @PreDestroy
    void close() {
        beside.shutdownNow();
    }
}
