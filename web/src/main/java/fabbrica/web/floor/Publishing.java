package fabbrica.web.floor;

import fabbrica.web.floor.FloorPlans.Desk;
import fabbrica.web.floor.FloorPlans.Stand;
import fabbrica.web.plan.Elsewhere;
import fabbrica.web.plan.Elsewhere.Prepared;
import fabbrica.web.plan.LaidPlate;
import fabbrica.web.plan.Plates;
import fabbrica.web.platform.Outdated;
import fabbrica.web.platform.Refusal;
import fabbrica.web.platform.events.About;
import fabbrica.web.platform.events.Events;
import fabbrica.web.platform.events.Fact;
import fabbrica.web.stores.StockPrinter;
import fabbrica.web.ticket.Ticket;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.function.Function;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Component;
import org.springframework.transaction.support.TransactionTemplate;

/**
 * Makes a draft the plan that holds: plates go to the printers where it has them and wait there in its order, and members are told
 * by when they can collect what is theirs. Whoever was told already is told again only when it becomes later.
 */
@Component
public class Publishing {

    /** What nobody would come another time for. */
    private static final Duration NOT_WORTH_A_LETTER = Duration.ofMinutes(30);

    private final FloorPlans plans;
    private final FloorPlanRepository repository;
    private final Promises promises;
    private final Elsewhere elsewhere;
    private final Plates plates;
    private final Events events;
    private final Clock clock;
    private final TransactionTemplate transaction;

    Publishing(FloorPlans plans, FloorPlanRepository repository, Promises promises, Elsewhere elsewhere, Plates plates, Events events, Clock clock,
               TransactionTemplate transaction) {
        this.plans = plans;
        this.repository = repository;
        this.promises = promises;
        this.elsewhere = elsewhere;
        this.plates = plates;
        this.events = events;
        this.clock = clock;
        this.transaction = transaction;
    }

    /**
     * What a member is told when a plan is published.
     *
     * @param before what was told before; null when nothing was
     */
    record Letter(Ticket ticket, Instant collect, @Nullable Instant before) {

        /** Whether it becomes later than was promised. */
        public boolean slips() {
            return before != null;
        }

        /** Whether it is not there when it is needed. */
        public boolean late() {
            Instant needed = ticket.request().neededBy();
            return needed != null && collect.isAfter(needed);
        }
    }

    /** What would be told, were a plan published now; what becomes later than was promised first. */
    List<Letter> letters(FloorPlan plan) {
        Map<Long, Instant> promised = promises.of(plan), before = repository.promised(promised.keySet());
        Map<Long, Ticket> tickets = plan.claims().values().stream().flatMap(claim -> claim.tickets().stream()).distinct()
                .collect(Collectors.toMap(Ticket::id, Function.identity()));
        return promised.entrySet().stream().map(each -> new Letter(Objects.requireNonNull(tickets.get(each.getKey())), each.getValue(), before.get(each.getKey())))
                .filter(letter -> letter.before() == null || Duration.between(letter.before(), letter.collect()).compareTo(NOT_WORTH_A_LETTER) > 0)
                .sorted(Comparator.comparing((Letter letter) -> !letter.slips()).thenComparing(Letter::collect)).toList();
    }

    /** Publishes what waits, as it does. */
    public void publishAsItWaits(String who) {
        publish(plans.desk().stand(), who);
    }

    /**
     * Publishes the draft; without one, the queues as they are.
     *
     * @return what was told
     * @throws Refusal that says what another did since the page was opened, or why a plate cannot be printed where the draft has it
     */
    List<Letter> publish(Stand seen, String who) {
        plans.requireUnchanged(seen);
        Desk desk = plans.desk();
        FloorPlan plan = desk.plan();
        List<Letter> letters = letters(plan);
        List<Prepared> moves = moves(plan);
        String what = desk.draft().map(Draft::what).orElse("the queues as they were");
        transaction.executeWithoutResult(status -> {
            plans.requireUnchanged(seen);
            if (!plates.inState(LaidPlate.State.QUEUED).equals(plan.floor().waiting())) {
                throw new Outdated();
            }
            moves.forEach(move -> move.keep("by the floor plan: " + what, who));
            plates.reorder(plan.placed().stream().map(Placed::plate).toList());
            for (Placed one : plan.placed()) {
                plan.slot(one.plate()).ifPresentOrElse(there -> repository.saveSlot(there, one.pinned() != null), () -> repository.deleteSlot(one.plate()));
            }
            letters.forEach(letter -> {
                repository.savePromised(letter.ticket().id(), letter.collect());
                events.record(who, About.ticket(letter.ticket().id()), new Fact.Promised(letter.collect(), letter.before()));
            });
            events.record(who, About.NOTHING, new Fact.FloorPlanned(), what);
            repository.publish(what, who, clock.instant());
            repository.deleteDrafts();
        });
        return letters;
    }

    /** Those that go to another printer; worked out before anything is changed. */
    private List<Prepared> moves(FloorPlan plan) {
        List<LaidPlate> going = plan.floor().waiting().stream().filter(plate -> !plan.one(plate.id()).on(plate.plan().printerId())).toList();
        Map<Long, Double> others = plates.promisedBut(going);
        List<Prepared> moves = new ArrayList<>();
        for (LaidPlate plate : going) {
            StockPrinter to = plan.printer(plan.one(plate.id()).way().printerId());
            try {
                moves.add(elsewhere.prepare(plate, to, others));
            } catch (Refusal refusal) {
                throw new Refusal("%s cannot go to %s: %s".formatted(plate.name(), to.name(), refusal.getMessage()));
            }
        }
        return moves;
    }
}
