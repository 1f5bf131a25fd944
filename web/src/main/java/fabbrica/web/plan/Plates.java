package fabbrica.web.plan;

import fabbrica.core.printing.Nester;
import fabbrica.core.printing.Nester.Wanted;
import fabbrica.core.recipe.Part;
import fabbrica.core.recipe.Plate;
import fabbrica.core.recipe.Plate.Place;
import fabbrica.core.recipe.Plate.Sequence;
import fabbrica.core.recipe.Recipe;
import fabbrica.web.plan.LaidPlate.LaidCopy;
import fabbrica.web.plan.LaidPlate.State;
import fabbrica.web.platform.Outdated;
import fabbrica.web.platform.Refusal;
import fabbrica.web.platform.events.About;
import fabbrica.web.platform.events.Events;
import fabbrica.web.platform.events.Fact;
import fabbrica.web.stores.Inventory;
import fabbrica.web.stores.StockPrinter;
import fabbrica.web.stores.StockSpool;
import fabbrica.web.ticket.Charges;
import fabbrica.web.ticket.PartChanged;
import fabbrica.web.ticket.Ticket;
import fabbrica.web.ticket.TicketState;
import fabbrica.web.ticket.Tickets;
import java.time.Clock;
import java.util.ArrayList;
import java.util.Collection;
import java.util.Collections;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Optional;
import java.util.Set;
import java.util.TreeSet;
import java.util.function.Function;
import java.util.function.LongConsumer;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import org.springframework.context.event.EventListener;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;
import org.springframework.transaction.support.TransactionTemplate;

/**
 * The life of plates until they are printed: laid, put into a queue, put back, taken apart. Every step is one transaction that
 * also puts the tickets where their copies are; what has to be worked out is worked out before it.
 */
@Service
public class Plates {

    /** Less than there is between two that wait. */
    private static final double BEHIND = 1e-3;
    private static final Set<TicketState> TAKEN_IN = Set.of(TicketState.ACCEPTED, TicketState.QUEUED, TicketState.FAILED, TicketState.RUNNING);

    private final PlateRepository repository;
    private final Plans plans;
    private final Planning planning;
    private final Laying laying;
    private final Judging judging;
    private final Tickets tickets;
    private final Prices prices;
    private final Charges charges;
    private final Inventory inventory;
    private final Events events;
    private final Clock clock;
    private final TransactionTemplate transaction;

    Plates(PlateRepository repository, Plans plans, Planning planning, Laying laying, Judging judging, Tickets tickets, Prices prices, Charges charges, Inventory inventory,
           Events events, Clock clock, TransactionTemplate transaction) {
        this.repository = repository;
        this.plans = plans;
        this.planning = planning;
        this.laying = laying;
        this.judging = judging;
        this.tickets = tickets;
        this.prices = prices;
        this.charges = charges;
        this.inventory = inventory;
        this.events = events;
        this.clock = clock;
        this.transaction = transaction;
    }

    /** @throws java.util.NoSuchElementException when there is none with that number */
    public LaidPlate plate(long id) {
        return repository.find(id).orElseThrow();
    }

    public List<LaidPlate> plates(Collection<Long> ids) {
        return repository.find(ids);
    }

    /** In the order in which they wait. */
    public List<LaidPlate> inState(State state) {
        return repository.inState(state);
    }

    /** Plates that are not over, on which a ticket has copies. */
    public List<LaidPlate> openOf(long ticketId) {
        return repository.openOf(ticketId);
    }

    public Copies copies(long ticketId) {
        return Objects.requireNonNull(repository.copies(List.of(ticketId)).get(ticketId));
    }

    public Map<Long, Copies> copies(Collection<Long> tickets) {
        return repository.copies(tickets);
    }

    /**
     * Puts all copies of a ticket that are still to be printed into its printer's queue, on as many plates as they take; plates
     * of its own that waited are taken apart.
     *
     * @throws Refusal with the reasons when the plan cannot be carried out
     */
    public List<Long> queue(Ticket seen, Plan plan, String who) {
        if (!seen.state().canBePlanned()) {
            throw new Refusal("This ticket cannot be planned now: it is “%s”.".formatted(seen.state().label().toLowerCase()));
        }
        Planning.Settled settled = planning.settle(seen, plan);
        return transaction.execute(status -> {
            requireUnchanged(seen);
            int copies = planning.toBePlanned(seen);
            if (copies != settled.plates().stream().mapToInt(plate -> plate.copies().size()).sum()) {
                throw new Outdated();
            }
            planning.ownOpen(seen).forEach(plate -> takeApart(plate, seen.id()));
            tickets.planned(seen.id(), plan.id());
            List<Long> made = new ArrayList<>();
            for (int i = 0; i < settled.plates().size(); i++) {
                Plate plate = settled.plates().get(i);
                long id = insert(plan, plate, plate.copies().stream().map(copy -> seen.id()).toList());
                enqueue(repository.find(id).orElseThrow(), settled.promises().get(i), who);
                made.add(id);
            }
            settle(List.of(seen.id()));
            price(List.of(seen.id()));
            return made;
        });
    }

    /**
     * Writes down what tickets cost as their plates were promised; what printing has begun of all copies costs what it did.
     *
     * @throws Refusal when a member has to be asked first
     */
    private void price(Collection<Long> ids) {
        List<LaidPlate> promised = repository.promisedOf(ids);
        for (Ticket ticket : tickets.tickets(ids).stream().filter(each -> each.charge().price() == null || begun(each, promised) < each.request().quantity()).toList()) {
            Judging.Bench bench = judging.bench(List.of(ticket), List.of(ticket.id()));
            prices.ofPromised(bench, ticket, promised).ifPresent(quote -> {
                Planning.refuseIfStopped(prices.question(ticket, quote.total()).stream().toList());
                charges.price(ticket.id(), quote);
            });
        }
    }

    private static long begun(Ticket ticket, List<LaidPlate> plates) {
        return plates.stream().filter(plate -> !plate.waits()).flatMap(plate -> plate.copies().stream()).filter(copy -> copy.ticketId() == ticket.id()).count();
    }

    /**
     * Lays the copies of several tickets that lie nowhere yet on plates together; they wait until somebody puts them into the queue.
     *
     * @throws Refusal when a ticket is not accepted, or nothing is left to be laid
     */
    public List<Long> draft(List<Ticket> seen, PlanEntry entry, Sequence sequence, String who) {
        List<Long> ids = seen.stream().map(Ticket::id).toList();
        Map<Long, Copies> standing = copies(ids);
        List<Ticket> ready = seen.stream().filter(ticket -> Objects.requireNonNull(standing.get(ticket.id())).missing() > 0).toList();
        ready.forEach(Plates::requireToBeLaid);
        if (ready.isEmpty()) {
            throw new Refusal("All copies of these tickets are printed or lie on plates already.");
        }
        StockPrinter printer = inventory.printer(entry.printerId()).orElseThrow(() -> new Refusal("Choose a printer first."));
        List<Wish> wishes = ready.stream().flatMap(ticket -> Wish.of(ticket, Objects.requireNonNull(standing.get(ticket.id())).missing())).toList();
        Nester nested = nest(wishes, entry.recipe(), printer, sequence);
        int tooMany = nested.tooMany().stream().mapToInt(Integer::intValue).sum();
        if (tooMany > 0) {
            throw new Refusal("%d copies fit on no plate of %s. Take a larger printer, or scale them down.".formatted(tooMany, printer.name()));
        }
        return transaction.execute(status -> {
            ready.forEach(this::requireUnchanged);
            if (!copies(ids).equals(standing)) {
                throw new Outdated();
            }
            Plan plan = plans.keep(entry);
            List<Long> made = new ArrayList<>();
            Map<Part, List<Long>> left = Wish.byPart(wishes);
            for (Plate plate : nested.plates()) {
                List<Long> whose = owners(plate, left);
                long id = insert(plan, plate, whose);
                whose.stream().collect(Collectors.groupingBy(Function.identity(), Collectors.counting()))
                        .forEach((ticket, count) -> events.record(who, About.ticket(ticket).laidOn(id), new Fact.LaidOut(count.intValue())));
                made.add(id);
            }
            settle(ready.stream().map(Ticket::id).toList());
            return made;
        });
    }

    /** A copy that is to be laid for a ticket. */
    private record Wish(Part part, long ticketId) {

        static Stream<Wish> of(Ticket ticket, int copies) {
            return Collections.nCopies(copies, new Wish(ticket.part(), ticket.id())).stream();
        }

        static Wish of(LaidCopy copy) {
            return new Wish(copy.copy().part(), copy.ticketId());
        }

        /** The tickets that want each part, as often as they do. */
        static Map<Part, List<Long>> byPart(List<Wish> wishes) {
            return wishes.stream().collect(Collectors.groupingBy(Wish::part, LinkedHashMap::new,
                    Collectors.mapping(Wish::ticketId, Collectors.toCollection(ArrayList::new))));
        }
    }

    private Nester nest(List<Wish> wishes, Recipe recipe, StockPrinter printer, Sequence sequence) {
        return laying.lay(Wish.byPart(wishes).entrySet().stream().map(part -> new Wanted(part.getKey(), part.getValue().size())).toList(), recipe,
                printer.printer(), sequence);
    }

    /** Lays a plate that is being laid another way: other places, another plan, or both. */
    @Transactional
    public void rearrange(LaidPlate seen, PlanEntry entry, Sequence sequence, List<Place> places) {
        requireDraft(seen);
        if (laying.isFixed(seen.plate()) && !places.equals(seen.copies().stream().map(copy -> copy.copy().place()).toList())) {
            throw new Refusal("This file was sliced elsewhere: it is printed where it lays its lines and cannot be moved on the bed.");
        }
        repository.savePlan(seen.id(), plans.keep(entry).id(), sequence);
        for (int i = 0; i < places.size(); i++) {
            repository.savePlace(seen.copies().get(i).id(), places.get(i));
        }
    }

    /** Where the copies of a plate would lie if they were nested anew; what does not fit on it stays where it is. */
    public List<Place> nested(LaidPlate seen, PlanEntry entry, Sequence sequence) {
        return nested(seen, entry, inventory.printer(entry.printerId()).orElseThrow(() -> new Refusal("Choose a printer first.")), sequence);
    }

    List<Place> nested(LaidPlate seen, PlanEntry entry, StockPrinter printer, Sequence sequence) {
        if (laying.isFixed(seen.plate())) {
            return seen.copies().stream().map(copy -> copy.copy().place()).toList();
        }
        Nester nested = nest(seen.copies().stream().map(Wish::of).toList(), entry.recipe(), printer, sequence);
        Map<Part, List<Place>> places = new LinkedHashMap<>();
        if (!nested.plates().isEmpty()) {
            nested.plates().getFirst().copies().forEach(copy -> places.computeIfAbsent(copy.part(), part -> new ArrayList<>()).add(copy.place()));
        }
        return seen.copies().stream().map(copy -> {
            List<Place> left = places.getOrDefault(copy.copy().part(), List.of());
            return left.isEmpty() ? copy.copy().place() : left.removeFirst();
        }).toList();
    }

    /**
     * Lays the copies of a ticket that lie nowhere yet on a plate that is being laid, as many as there is room for; all are laid
     * out anew.
     *
     * @return how many were laid on it
     * @throws Refusal when there is room for none, or none is left
     */
    public int add(LaidPlate seen, Ticket more, String who) {
        requireToBeLaid(more);
        if (laying.isFixed(seen.plate())) {
            throw new Refusal("What lies on this plate was sliced elsewhere and is printed by itself.");
        }
        int missing = copies(more.id()).missing(), room = 0, tooMany = missing + 1;
        if (missing == 0) {
            throw new Refusal("All copies of ticket no. %d are printed or lie on plates already.".formatted(more.id()));
        }
        StockPrinter printer = inventory.printer(seen.plan().printerId()).orElseThrow();
        Optional<Plate> most = Optional.empty();
        for (int tried = missing; tooMany - room > 1; tried = (room + tooMany) / 2) {
            Optional<Plate> laid = onOne(with(seen, more, tried), seen, printer);
            if (laid.isPresent()) {
                most = laid;
                room = tried;
            } else {
                tooMany = tried;
            }
        }
        Plate plate = most.orElseThrow(() -> new Refusal("There is no room for it on this plate."));
        int laid = room;
        transaction.executeWithoutResult(status -> {
            requireDraft(seen);
            requireUnchanged(more);
            if (copies(more.id()).missing() != missing) {
                throw new Outdated();
            }
            repository.deleteCopies(seen.id());
            insert(seen.id(), plate, owners(plate, Wish.byPart(with(seen, more, laid))));
            events.record(who, About.ticket(more.id()).laidOn(seen.id()), new Fact.LaidOut(laid));
            settle(List.of(more.id()));
        });
        return laid;
    }

    private static List<Wish> with(LaidPlate plate, Ticket more, int copies) {
        return Stream.concat(plate.copies().stream().map(Wish::of), Wish.of(more, copies)).toList();
    }

    /** Copies printed as those of a plate are, nested; empty when they do not fit on one. */
    private Optional<Plate> onOne(List<Wish> wishes, LaidPlate as, StockPrinter printer) {
        return onOne(wishes, as.plan().recipe(), printer, as.sequence());
    }

    private Optional<Plate> onOne(List<Wish> wishes, Recipe recipe, StockPrinter printer, Plate.Sequence sequence) {
        return nest(wishes, recipe, printer, sequence).plates().stream().findFirst()
                .filter(first -> first.copies().size() == wishes.size());
    }

    /** Takes copies off a plate that is being laid; they lie nowhere again. */
    @Transactional
    public void takeOff(LaidPlate seen, Collection<Long> copyIds) {
        requireDraft(seen);
        replace(seen, seen.copies().stream().filter(copy -> !copyIds.contains(copy.id())).toList());
        settle(seen.tickets());
    }

    /**
     * Puts a plate into its printer's queue.
     *
     * @throws Refusal with the reasons when it cannot be printed so
     */
    public void enqueue(LaidPlate seen, String who) {
        requireDraft(seen);
        StockPrinter printer = inventory.printer(seen.plan().printerId()).orElseThrow();
        StockSpool spool = planning.spool(seen.plan().entry()).orElseThrow(() -> new Refusal("Choose a spool first."));
        Promise promise = planning.settle(bench(seen), seen.plan(), printer, spool, List.of(seen.plate()), promisedBut(seen))
                .promises().getFirst();
        transaction.executeWithoutResult(status -> {
            requireDraft(seen);
            enqueue(seen, promise, who);
            settle(seen.tickets());
            price(seen.tickets());
        });
    }

    /** Takes a plate out of its queue; it can be laid anew. */
    @Transactional
    public void putBack(LaidPlate seen, String why, String who) {
        requireReason(why);
        requireUnchanged(seen);
        move(seen, State.QUEUED, State.DRAFT, "Only a plate that waits can be put back.");
        seen.tickets().forEach(ticket -> events.record(who, About.ticket(ticket).laidOn(seen.id()).on(seen.plan().printerId()),
                new Fact.LeftQueue(Fact.Cause.TAKEN_BACK), why));
        settle(seen.tickets());
    }

    /** Takes a plate apart for good; its copies lie nowhere again. */
    @Transactional
    public void dissolve(LaidPlate seen, String who) {
        requireDraft(seen);
        replace(seen, List.of());
        settle(seen.tickets());
    }

    /**
     * Moves a plate that waits into another printer's queue.
     *
     * @param entry  by which it is printed there
     * @param places of its copies there
     */
    @Transactional
    void moved(LaidPlate seen, PlanEntry entry, List<Place> places, Promise promise, String why, String who) {
        requireUnchanged(seen);
        requireReason(why);
        move(seen, State.QUEUED, State.DRAFT, "Only a plate that waits can be moved.");
        seen.tickets().forEach(ticket -> events.record(who, About.ticket(ticket).laidOn(seen.id()).on(seen.plan().printerId()),
                new Fact.LeftQueue(Fact.Cause.MOVED), why));
        repository.savePlan(seen.id(), plans.keep(entry).id(), seen.sequence());
        for (int i = 0; i < places.size(); i++) {
            repository.savePlace(seen.copies().get(i).id(), places.get(i));
        }
        enqueue(plate(seen.id()), promise, who);
        settle(seen.tickets());
        price(seen.tickets());
    }

    /**
     * What waits, as it would be laid anew.
     *
     * @param before   plates that wait now
     * @param after    plates in their place, with the ticket of each copy and what each takes
     */
    public record Relaid(List<LaidPlate> before, List<Laid> after) {

        /** A plate as it would be laid. */
        public record Laid(Plate plate, List<Long> owners, Promise promise) {

            /** How it is printed, as the plates of which it comes. */
            public Way as(LaidPlate before) {
                return Way.of(promise, before.plan().printerId(), before.plan().spoolId());
            }
        }

        /** Seconds that it takes longer in all; less than nothing when it takes less. */
        public double longerS() {
            return after.stream().mapToDouble(laid -> laid.promise().totalS()).sum() - before.stream().mapToDouble(plate -> Objects.requireNonNull(plate.promise()).totalS()).sum();
        }
    }

    /**
     * A plate that waits in two: so many of its copies on one, the others on another.
     *
     * @throws Refusal when it cannot be printed so
     */
    public Relaid apart(LaidPlate seen, int copies) {
        if (copies < 1 || copies >= seen.copies().size()) {
            throw new Refusal("Of %d copies between 1 and %d can go on a plate of their own.".formatted(seen.copies().size(), seen.copies().size() - 1));
        }
        List<Wish> wishes = seen.copies().stream().map(Wish::of).toList();
        int stay = wishes.size() - copies;
        return new Relaid(List.of(seen), List.of(laid(wishes.subList(0, stay), seen, List.of(seen)), laid(wishes.subList(stay, wishes.size()), seen, List.of(seen))));
    }

    /**
     * Two plates that wait as one.
     *
     * @throws Refusal when they are not printed alike, or do not fit on one
     */
    public Relaid together(LaidPlate seen, LaidPlate other) {
        if (!isAlike(seen, other)) {
            throw new Refusal("Only what is printed by the same recipe, on the same printer and from the same spool can lie on one plate.");
        }
        List<Wish> wishes = Stream.concat(seen.copies().stream(), other.copies().stream()).map(Wish::of).toList();
        return new Relaid(List.of(seen, other), List.of(laid(wishes, seen, List.of(seen, other))));
    }

    /** Whether two plates that wait are printed alike. */
    public boolean isAlike(LaidPlate seen, LaidPlate other) {
        return seen.waits() && other.waits() && seen.id() != other.id() && seen.plan().entry().equals(other.plan().entry()) && seen.sequence() == other.sequence()
                && !laying.isFixed(seen.plate()) && !laying.isFixed(other.plate());
    }

    /** Whether two plates that are printed alike have room on one bed. */
    public boolean fitOnOne(LaidPlate seen, LaidPlate other) {
        return onOne(Stream.concat(seen.copies().stream(), other.copies().stream()).map(Wish::of).toList(), seen,
                inventory.printer(seen.plan().printerId()).orElseThrow()).isPresent();
    }

    private Relaid.Laid laid(List<Wish> wishes, LaidPlate as, List<LaidPlate> before) {
        StockPrinter printer = inventory.printer(as.plan().printerId()).orElseThrow();
        StockSpool spool = planning.spool(as.plan().entry()).orElseThrow(() -> new Refusal("The spool of this plate is no longer on the shelf."));
        if (laying.isFixed(as.plate())) {
            throw new Refusal("What lies on this plate was sliced elsewhere and is printed by itself.");
        }
        Plate plate = onOne(wishes, as, printer).orElseThrow(() -> new Refusal("They do not all fit on one plate of %s.".formatted(printer.name())));
        List<Long> owners = owners(plate, Wish.byPart(wishes));
        Judging.Bench bench = judging.bench(tickets.tickets(owners.stream().distinct().toList()), owners);
        return new Relaid.Laid(plate, owners, planning.settle(bench, as.plan(), printer, spool, List.of(plate), promisedBut(before)).promises().getFirst());
    }

    /** Lays plates that wait anew; the first keeps its number, and what comes of them waits where it did. */
    @Transactional
    public List<Long> relay(Relaid relaid, String who) {
        List<Long> owners = relaid.before().stream().flatMap(plate -> plate.tickets().stream()).distinct().toList(), ids = new ArrayList<>();
        LaidPlate first = relaid.before().getFirst();
        for (LaidPlate plate : relaid.before()) {
            requireUnchanged(plate);
            move(plate, State.QUEUED, State.DRAFT, "Only a plate that waits can be laid anew.");
            plate.tickets().forEach(ticket -> events.record(who, About.ticket(ticket).laidOn(plate.id()).on(plate.plan().printerId()), new Fact.LeftQueue(Fact.Cause.RELAID)));
            repository.deleteCopies(plate.id());
            if (plate.id() != first.id()) {
                repository.move(plate.id(), State.DRAFT, State.DISSOLVED);
            }
        }
        for (Relaid.Laid laid : relaid.after()) {
            long id = ids.isEmpty() ? first.id() : repository.insert(first.plan().id(), first.sequence(), clock.instant());
            insert(id, laid.plate(), laid.owners());
            repository.savePlaceInQueue(id, first.place() + ids.size() * BEHIND);
            enqueue(plate(id), laid.promise(), who);
            ids.add(id);
        }
        settle(owners);
        price(owners);
        return ids;
    }

    /** Puts plates that wait into an order, among the places that they have. */
    @Transactional
    public void reorder(List<Long> inOrder) {
        List<Double> places = repository.find(inOrder).stream().map(LaidPlate::place).sorted().toList();
        for (int i = 0; i < places.size(); i++) {
            repository.savePlaceInQueue(inOrder.get(i), places.get(i));
        }
    }

    /**
     * Lays the copies that failed on a plate anew, and puts them into the queue.
     *
     * @param failed of the plate's copies, those that are to be printed again
     * @param entry  how, on the same printer
     * @param queued told the number of the new plate before it is kept
     */
    public long again(LaidPlate plate, List<LaidCopy> failed, PlanEntry entry, LongConsumer queued, String who) {
        Plan plan = new Plan(0, entry);
        List<Wish> wishes = failed.stream().map(Wish::of).toList();
        List<Ticket> whose = tickets.tickets(wishes.stream().map(Wish::ticketId).toList());
        StockPrinter printer = inventory.printer(plate.plan().printerId()).orElseThrow();
        StockSpool spool = planning.spool(entry).orElseThrow(() -> new Refusal(
                "The spool of this plate is no longer on the shelf. Plan it with another one."));
        // Closer together when there is room for all of them so, else where they lay.
        Plate laid = (failed.size() < plate.copies().size() || !entry.recipe().equals(plate.plan().recipe()) ? onOne(wishes, entry.recipe(), printer, plate.sequence()) : Optional.<Plate>empty())
                .orElseGet(() -> new Plate(failed.stream().map(LaidCopy::copy).toList(), plate.sequence(), entry.recipe()));
        Promise promise = planning.settle(judging.bench(whose, failed.stream().map(LaidCopy::ticketId).toList()), plan, printer, spool,
                List.of(laid), judging.promised(List.of())).promises().getFirst();
        return transaction.execute(status -> {
            whose.forEach(this::requireUnchanged);
            Map<Long, Long> again = wishes.stream().collect(Collectors.groupingBy(Wish::ticketId, Collectors.counting()));
            copies(again.keySet()).forEach((ticket, copies) -> {
                if (copies.missing() < Objects.requireNonNull(again.get(ticket))) {
                    throw new Refusal("The copies that failed lie on another plate already.");
                }
            });
            long id = insert(entry.equals(plate.plan().entry()) ? plate.plan() : plans.keep(entry), laid, owners(laid, Wish.byPart(wishes)));
            enqueue(repository.find(id).orElseThrow(), promise, who);
            settle(again.keySet());
            queued.accept(id);
            return id;
        });
    }

    /** Grams that other plates that wait were promised of each spool. */
    Map<Long, Double> promisedBut(LaidPlate plate) {
        return promisedBut(List.of(plate));
    }

    /** The same but for some plates. */
    public Map<Long, Double> promisedBut(List<LaidPlate> some) {
        return judging.promised(some.stream().map(LaidPlate::id).toList());
    }

    /** Writes down which file was handed out for a plate. */
    @Transactional
    public void handedOutFile(long id, String hash) {
        repository.saveFile(id, hash);
    }

    /** Puts tickets where their copies are. */
    @Transactional
    public void settle(Collection<Long> ids) {
        repository.copies(ids).forEach((ticket, copies) -> tickets.become(ticket, copies.state()));
    }

    /** @throws Refusal when it is not in that state any more */
    @Transactional
    public void move(LaidPlate plate, State from, State to, String otherwise) {
        if (!repository.move(plate.id(), from, to)) {
            throw new Refusal(otherwise);
        }
    }

    /** What is on a plate, for whom, as it is judged. */
    public Judging.Bench bench(LaidPlate plate) {
        return judging.bench(tickets.tickets(plate.tickets()), plate.copies().stream().map(LaidCopy::ticketId).toList());
    }

    /** Copies of a part that is no longer the same leave the plates that wait. */
    @EventListener
    public void partChanged(PartChanged changed) {
        Set<Long> others = new TreeSet<>();
        for (LaidPlate plate : repository.openOf(changed.ticketId())) {
            if (plate.isOpen()) {
                if (plate.waits()) {
                    plate.tickets().forEach(ticket -> {
                        About about = About.ticket(ticket).laidOn(plate.id()).on(plate.plan().printerId());
                        if (ticket == changed.ticketId()) {
                            events.record(changed.who(), about, new Fact.LeftQueue(changed.cause()));
                        } else {
                            events.record(changed.who(), about, new Fact.LeftQueue(Fact.Cause.TAKEN_BACK),
                                    "ticket no. %d, on the same plate, was changed".formatted(changed.ticketId()));
                        }
                    });
                    repository.move(plate.id(), State.QUEUED, State.DRAFT);
                }
                takeApart(plate, changed.ticketId());
                others.addAll(plate.tickets());
            }
        }
        settle(others);
    }

    private void takeApart(LaidPlate plate, long ticketId) {
        replace(plate, plate.copies().stream().filter(copy -> copy.ticketId() != ticketId).toList());
    }

    private void replace(LaidPlate plate, List<LaidCopy> left) {
        repository.deleteCopies(plate.id());
        for (int i = 0; i < left.size(); i++) {
            repository.insertCopy(plate.id(), left.get(i).ticketId(), i + 1, left.get(i).copy());
        }
        if (left.isEmpty()) {
            repository.move(plate.id(), State.DRAFT, State.DISSOLVED);
            repository.move(plate.id(), State.QUEUED, State.DISSOLVED);
        }
    }

    private long insert(Plan plan, Plate plate, List<Long> owners) {
        long id = repository.insert(plan.id(), plate.sequence(), clock.instant());
        insert(id, plate, owners);
        return id;
    }

    private void insert(long id, Plate plate, List<Long> owners) {
        for (int i = 0; i < owners.size(); i++) {
            repository.insertCopy(id, owners.get(i), i + 1, plate.copies().get(i));
        }
    }

    /** Whose each copy of a plate is; taken from the tickets that want its part. */
    private static List<Long> owners(Plate plate, Map<Part, List<Long>> wanting) {
        return plate.copies().stream().map(copy -> Objects.requireNonNull(wanting.get(copy.part())).removeFirst()).toList();
    }

    private static void requireToBeLaid(Ticket ticket) {
        if (!TAKEN_IN.contains(ticket.state())) {
            throw new Refusal("Ticket no. %d is “%s”: accept it first.".formatted(ticket.id(), ticket.state().label().toLowerCase()));
        }
        if (ticket.isSliced()) {
            throw new Refusal("The file of ticket no. %d was sliced elsewhere and is printed by itself. Queue it on its own page.".formatted(ticket.id()));
        }
    }

    private void enqueue(LaidPlate plate, Promise promise, String who) {
        repository.insertPromise(plate.id(), promise, clock.instant());
        repository.queue(plate.id(), clock.instant());
        move(plate, State.DRAFT, State.QUEUED, "This plate waits already, or is taken apart.");
        plate.copies().stream().collect(Collectors.groupingBy(LaidCopy::ticketId, Collectors.counting())).forEach((ticket, count) ->
                events.record(who, About.ticket(ticket).laidOn(plate.id()).on(plate.plan().printerId()),
                        new Fact.Queued(count.intValue(), promise.totalS(), promise.grams())));
    }

    private void requireDraft(LaidPlate seen) {
        requireUnchanged(seen);
        if (seen.state() != State.DRAFT) {
            throw new Refusal("This plate is no longer being laid: it %s.".formatted(seen.state().label()));
        }
    }

    private void requireUnchanged(LaidPlate seen) {
        if (!repository.find(seen.id()).equals(Optional.of(seen))) {
            throw new Outdated();
        }
    }

    private void requireUnchanged(Ticket seen) {
        if (!tickets.ticket(seen.id()).equals(seen)) {
            throw new Outdated();
        }
    }

    private static void requireReason(String why) {
        if (why.isBlank()) {
            throw new Refusal("Give a reason: whoever planned it will want to know.");
        }
    }
}
