package fabbrica.web.plan;

import fabbrica.core.estimate.Expected;
import fabbrica.core.judge.Obstacle;
import fabbrica.core.schedule.Schedule.Slot;
import fabbrica.core.units.Money;
import fabbrica.core.units.Spoken;
import fabbrica.web.platform.Moments;
import fabbrica.web.stores.StockPrinter;
import fabbrica.web.ticket.NextStep;
import fabbrica.web.ticket.Ticket;
import fabbrica.web.ticket.TicketState;
import java.time.Instant;
import java.util.List;
import java.util.Objects;
import java.util.Optional;
import java.util.stream.Collectors;
import java.util.stream.IntStream;
import java.util.stream.Stream;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Component;

/** Says what a plan promises, or what the plates promise on which a ticket lies. */
@Component
class Outlooks {

    private final Moments moments;

    Outlooks(Moments moments) {
        this.moments = moments;
    }

    /** Of a plan that is not queued yet. */
    Outlook of(Ticket ticket, Planning.Preview preview) {
        String printer = preview.chosen().map(option -> option.printer().name()).orElse("no printer yet");
        String spool = preview.spools().stream().filter(option -> Objects.equals(option.spool().id(), preview.plan().spoolId())).findFirst()
                .map(option -> "%s %s".formatted(option.material().name(), option.spool().spool().colour())).orElse("no spool yet");
        Expected expected = preview.expected();
        String result = "%s, %s, %s".formatted(printer, spool, expected == null ? "not worked out yet"
                : Spoken.duration(expected.totalSeconds()) + (preview.cost() == null ? "" : ", " + preview.cost()));
        NextStep next = ticket.state() == TicketState.ACCEPTED ? queue(ticket, preview, printer) : null;
        if (expected == null || preview.obstacles().stream().anyMatch(Obstacle::stops)) {
            return new Outlook("", result, next);
        }
        String when = preview.first().isPresent() && preview.last().isPresent() ? "could start %s on %s and be handed out by %s".formatted(
                moments.say(preview.first().get().start()), printer, moments.say(preview.last().get().handOut())) : "nobody knows yet when it could start on " + printer;
        return new Outlook("%s%s; %s".formatted(takes(expected.totalSeconds(), expected.earliestSeconds(), expected.latestSeconds(), expected.grams(), preview.cost()),
                preview.copies() == 1 ? "" : " for %d copies".formatted(preview.copies()), when), result, next);
    }

    private NextStep queue(Ticket ticket, Planning.Preview preview, String printer) {
        String label = preview.chosen().isPresent() ? "Queue it on " + printer : "Queue it";
        if (preview.canQueue()) {
            return NextStep.press(label, "plan-form", preview.lateFor(ticket.request().neededBy()) ? "◆ Too late for %s: look what else could be done."
                    .formatted(moments.say(Objects.requireNonNull(ticket.request().neededBy()))) : "");
        }
        if (preview.asksPrice()) {
            return ticket.charge().waits() && Objects.equals(ticket.charge().asked(), preview.cost())
                    ? NextStep.nothing("Asked whether %s is all right; it is queued once there is a yes.".formatted(preview.cost()))
                    : NextStep.press("Ask whether %s is all right".formatted(preview.cost()), "ask-price", "Above the limit of the house its member says yes first.");
        }
        String failed = preview.failed();
        return NextStep.later(label, "plan-form", preview.obstacles().stream().filter(Obstacle::stops).map(obstacle -> "■ " + obstacle.reason()).findFirst()
                .orElse(!preview.problem().isEmpty() ? "■ " + preview.problem() : failed != null ? "■ " + failed : "Working out what it takes…"));
    }

    /** Of plates that are not over, on which a ticket has copies. */
    Outlook of(Ticket ticket, List<LaidPlate> open, Forecasts.Floor floor) {
        List<LaidPlate> promised = open.stream().filter(plate -> plate.promise() != null).toList();
        if (promised.isEmpty()) {
            String names = open.stream().map(plate -> "plate no. %d is being laid".formatted(plate.id())).collect(Collectors.joining(", "));
            return new Outlook("", names, ticket.state() == TicketState.ACCEPTED && !open.isEmpty()
                    ? NextStep.go("Go on with plate no. %d".formatted(open.getFirst().id()), "/plates/%d".formatted(open.getFirst().id()), "") : null);
        }
        double seconds = promised.stream().map(LaidPlate::promise).mapToDouble(promise -> Objects.requireNonNull(promise).totalS()).sum();
        double grams = promised.stream().mapToDouble(plate -> grams(plate, ticket.id())).sum();
        Money cost = ticket.charge().price();
        String printers = promised.stream().map(plate -> name(plate, floor)).distinct().collect(Collectors.joining(", "));
        String shared = promised.stream().allMatch(plate -> plate.tickets().size() == 1) ? "" : "with others, ";
        String takes = takes(seconds, promised.stream().mapToDouble(plate -> Objects.requireNonNull(plate.promise()).earliestS()).sum(),
                promised.stream().mapToDouble(plate -> Objects.requireNonNull(plate.promise()).latestS()).sum(), grams, cost);
        return new Outlook("%s; %s".formatted(takes, when(promised, printers, floor)), "%s%s, %s%s".formatted(shared, printers, Spoken.duration(seconds),
                cost == null ? "" : ", " + cost), ticket.state() == TicketState.QUEUED ? start(open, floor) : null);
    }

    private String when(List<LaidPlate> promised, String printers, Forecasts.Floor floor) {
        Optional<LaidPlate> running = promised.stream().filter(plate -> plate.until() != null).findFirst();
        List<Slot> slots = promised.stream().filter(LaidPlate::waits).map(floor::of).flatMap(Optional::stream).toList();
        String now = running.map(plate -> "prints on %s until %s".formatted(name(plate, floor), moments.say(Objects.requireNonNull(plate.until())))).orElse("");
        if (slots.isEmpty()) {
            return now.isEmpty() ? "nobody knows yet when it starts on " + printers : now;
        }
        Instant there = slots.stream().map(Slot::handOut).max(Instant::compareTo).orElseThrow();
        return now.isEmpty() ? "starts %s on %s and is handed out by %s".formatted(moments.say(slots.getFirst().start()), printers, moments.say(there))
                : "%s, all of it by %s".formatted(now, moments.say(there));
    }

    private @Nullable NextStep start(List<LaidPlate> open, Forecasts.Floor floor) {
        return open.stream().filter(LaidPlate::waits).findFirst().map(plate -> {
            String address = "/floor/start/%d".formatted(plate.id()), name = name(plate, floor);
            long before = floor.waiting().stream().filter(other -> other.plan().printerId().equals(plate.plan().printerId())
                    && other.place() < plate.place()).count();
            String turn = before == 0 ? "It is next on %s.".formatted(name) : "%s before it on %s.".formatted(before == 1 ? "One plate waits"
                    : before + " plates wait", name);
            return floor.printers().stream().anyMatch(printer -> printer.id().equals(plate.plan().printerId()) && floor.canStart(printer))
                    ? NextStep.go("Start the run…", address, turn) : NextStep.nothing("%s is not free. %s".formatted(name, turn));
        }).orElse(null);
    }

    private static String takes(double seconds, double earliestS, double latestS, double grams, @Nullable Money cost) {
        return Stream.of("%s (%s to %s)".formatted(Spoken.duration(seconds), Spoken.duration(earliestS), Spoken.duration(latestS)), Spoken.grams(grams),
                cost == null ? "" : cost.toString()).filter(part -> !part.isEmpty()).collect(Collectors.joining(", "));
    }

    /** Of a plate's plastic, what is for one ticket. */
    private static double grams(LaidPlate plate, long ticketId) {
        Promise promise = Objects.requireNonNull(plate.promise());
        return promise.grams() * IntStream.range(0, plate.copies().size()).filter(i -> plate.copies().get(i).ticketId() == ticketId)
                .mapToDouble(i -> promise.portions().plastic().get(i)).sum();
    }

    private static String name(LaidPlate plate, Forecasts.Floor floor) {
        return floor.printers().stream().filter(printer -> printer.id().equals(plate.plan().printerId())).findFirst().map(StockPrinter::name)
                .orElse("a printer no longer in the Stores");
    }
}
