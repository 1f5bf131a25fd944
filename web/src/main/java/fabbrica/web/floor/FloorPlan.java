package fabbrica.web.floor;

import fabbrica.core.schedule.FirstCome;
import fabbrica.core.schedule.FloorView;
import fabbrica.core.schedule.FloorView.Option;
import fabbrica.core.schedule.FloorView.Place;
import fabbrica.core.schedule.FloorView.Waiting;
import fabbrica.core.schedule.Schedule;
import fabbrica.core.schedule.Schedule.Slot;
import fabbrica.core.schedule.Span;
import fabbrica.web.floor.Claims.Claim;
import fabbrica.web.plan.Forecasts;
import fabbrica.web.plan.LaidPlate;
import fabbrica.web.plan.LaidPlate.LaidCopy;
import fabbrica.web.plan.Way;
import fabbrica.web.platform.Refusal;
import fabbrica.web.stores.StockPrinter;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Optional;
import java.util.Set;
import java.util.function.Function;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import org.jspecify.annotations.Nullable;

/**
 * Where each plate that waits is printed, and when: decisions, laid out one after another as early as all rules allow.
 *
 * @param plates that wait, by their numbers
 * @param placed all plates that wait, in the order in which they are laid out
 * @param rows   those on each printer, in the order in which they start; what has no place comes last
 */
record FloorPlan(Forecasts.Floor floor, Map<Long, Claim> claims, Map<Long, LaidPlate> plates, List<Placed> placed, Map<String, List<Placed>> rows, FloorView view,
                 Schedule schedule) {

    /** The plan by which the floor goes now: each plate in its printer's queue. */
    static FloorPlan queues(Forecasts.Floor floor, Map<Long, Claim> claims) {
        List<Placed> placed = floor.waiting().stream().map(plate -> new Placed(plate.id(), plate.way(), pinned(plate))).toList();
        // Who came first is first, whatever the claims: the floor is laid out so already.
        return of(floor, claims, placed, view -> floor.schedule());
    }

    /** A draft, with what is in it as things are by now: without plates that no longer wait, with those that wait since then behind it. */
    static FloorPlan of(Forecasts.Floor floor, Map<Long, Claim> claims, Draft draft) {
        Map<Long, LaidPlate> waiting = floor.waiting().stream().collect(Collectors.toMap(LaidPlate::id, Function.identity()));
        List<Placed> placed = new ArrayList<>();
        Set<Long> known = new HashSet<>();
        for (Placed one : draft.placed()) {
            LaidPlate plate = waiting.get(one.plate());
            if (plate != null && Objects.equals(plate.plan().spoolId(), one.way().spoolId())
                    && floor.printers().stream().anyMatch(printer -> printer.id().equals(one.way().printerId()))) {
                placed.add(one.on(plate.plan().printerId()) ? one.with(plate.way()) : one);
                known.add(one.plate());
            }
        }
        floor.waiting().stream().filter(plate -> !known.contains(plate.id())).forEach(plate -> placed.add(new Placed(plate.id(), plate.way(), pinned(plate))));
        return of(floor, claims, placed);
    }

    private static FloorPlan of(Forecasts.Floor floor, Map<Long, Claim> claims, List<Placed> placed) {
        return of(floor, claims, placed, view -> new FirstCome().plan(view, Duration.ZERO));
    }

    private static FloorPlan of(Forecasts.Floor floor, Map<Long, Claim> claims, List<Placed> placed, Function<FloorView, Schedule> laidOut) {
        Map<Long, LaidPlate> plates = floor.waiting().stream().collect(Collectors.toMap(LaidPlate::id, Function.identity()));
        FloorView view = floor.view().with(placed.stream().map(one -> {
            LaidPlate plate = Objects.requireNonNull(plates.get(one.plate()));
            return waiting(floor, claims, one, List.of(floor.option(one.way())), plate.published() == null ? null
                    : new Place(plate.published().printerId(), plate.published().start()));
        }).toList());
        Schedule schedule = laidOut.apply(view);
        Map<String, List<Placed>> rows = placed.stream().sorted(Comparator.comparing(one -> schedule.of(one.plate()).map(Slot::work).orElse(Instant.MAX)))
                .collect(Collectors.groupingBy(one -> one.way().printerId()));
        return new FloorPlan(floor, claims, plates, List.copyOf(placed), rows, view, schedule);
    }

    /** @param before where it was in the plan that is to be kept to; null when it was in none */
    private static Waiting waiting(Forecasts.Floor floor, Map<Long, Claim> claims, Placed one, List<Option> options, @Nullable Place before) {
        Claim claim = Objects.requireNonNull(claims.get(one.plate()));
        Place pin = one.pinned() == null || one.pinned().isBefore(floor.view().now()) ? null : new Place(one.way().printerId(), one.pinned());
        return new Waiting(one.plate(), options, null, claim.due() == null ? null : printedBy(floor.view().staffed(), claim.due()), claim.weight(), claim.patience(), pin, before);
    }

    /** The floor as a scheduler sees it, with more ways to print each plate; what is in this plan is to be kept to. */
    FloorView open(Map<Long, List<Option>> ways) {
        return view.with(placed.stream().map(one -> {
            Option here = floor.option(one.way());
            List<Option> options = new ArrayList<>(List.of(here));
            ways.getOrDefault(one.plate(), List.of()).stream().filter(option -> !option.machine().equals(here.machine())).forEach(options::add);
            return waiting(floor, claims, one, options, slot(one.plate()).map(slot -> new Place(slot.machine(), slot.start()))
                    .orElse(new Place(one.way().printerId(), floor.view().now())));
        }).toList());
    }

    /** The last moment up to a deadline at which somebody is there to hand out what is printed by then; the deadline itself when nobody is. */
    static Instant printedBy(List<Span> staffed, Instant due) {
        return staffed.stream().takeWhile(there -> there.from().isBefore(due)).reduce((before, there) -> there).map(there -> there.to().isBefore(due) ? there.to() : due)
                .orElse(due);
    }

    private static @Nullable Instant pinned(LaidPlate plate) {
        return plate.published() != null && plate.published().pinned() ? plate.published().start() : null;
    }

    /** The same with other decisions. */
    FloorPlan with(List<Placed> others) {
        return of(floor, claims, others);
    }

    Optional<Slot> slot(long plate) {
        return schedule.of(plate);
    }

    Placed one(long plate) {
        return placed.stream().filter(each -> each.plate() == plate).findFirst().orElseThrow();
    }

    LaidPlate plate(long id) {
        return Optional.ofNullable(plates.get(id)).orElseThrow();
    }

    /** Of the floor, by its id. */
    StockPrinter printer(String id) {
        return floor.printers().stream().filter(printer -> printer.id().equals(id)).findFirst().orElseThrow();
    }

    /** By when plates are needed; without those that nobody needs by a moment. */
    Map<Long, Instant> needed() {
        Map<Long, Instant> needed = new HashMap<>();
        claims.forEach((plate, claim) -> Optional.ofNullable(claim.due()).ifPresent(due -> needed.put(plate, due)));
        return needed;
    }

    /** Whether it is laid out for later than somebody needs it, or for never. */
    boolean late(long plate) {
        Instant due = Objects.requireNonNull(claims.get(plate)).due();
        return due != null && slot(plate).map(slot -> slot.handOut().isAfter(due)).orElse(true);
    }

    /** What is laid out on a printer. */
    List<Placed> row(String printerId) {
        return rows.getOrDefault(printerId, List.of());
    }

    /**
     * The same with one plate elsewhere.
     *
     * @param before the plate that it goes before; null for the end of the printer's row
     * @throws Refusal when that one no longer waits
     */
    FloorPlan moved(Placed one, @Nullable Long before) {
        List<Placed> others = new ArrayList<>(placed.stream().filter(each -> each.plate() != one.plate()).toList());
        int at = before == null ? others.size() : others.stream().map(Placed::plate).toList().indexOf(before);
        if (at < 0) {
            throw new Refusal("What it was to go before no longer waits. Look at the plan as it is now.");
        }
        others.add(at, one);
        return with(others);
    }

    /** A plate that comes of others: how many of their copies are on it, and how it is printed. */
    record Anew(int copies, Way way) {
    }

    /**
     * The same with plates laid anew. What comes of them waits where the first of them did; the first keeps its number, others have
     * numbers below nothing.
     */
    FloorPlan relaid(List<Long> gone, List<Anew> come) {
        LaidPlate first = plate(gone.getFirst());
        List<LaidCopy> copies = gone.stream().flatMap(id -> plate(id).copies().stream()).toList();
        List<Claim> theirs = gone.stream().map(id -> Objects.requireNonNull(claims.get(id))).toList();
        List<LaidPlate> waiting = new ArrayList<>(floor.waiting().stream().filter(plate -> !gone.contains(plate.id())).toList());
        Map<Long, Claim> then = new HashMap<>(claims);
        List<Placed> row = new ArrayList<>();
        int from = 0;
        for (Anew one : come) {
            LaidPlate laid = first.with(row.isEmpty() ? first.id() : -row.size(), copies.subList(from, from + one.copies()));
            from += one.copies();
            waiting.add(laid);
            then.put(laid.id(), Claim.of(theirs, laid.tickets()));
            row.add(new Placed(laid.id(), one.way(), null));
        }
        return of(floor.with(waiting), then, placed.stream().flatMap(each -> each.plate() == first.id() ? row.stream() : gone.contains(each.plate()) ? Stream.empty()
                : Stream.of(each)).toList());
    }

    /** The same with one plate decided otherwise, in its place. */
    FloorPlan with(Placed one) {
        return with(placed.stream().map(each -> each.plate() == one.plate() ? one : each).toList());
    }
}
