package fabbrica.web.floor;

import fabbrica.web.machine.Machines;
import fabbrica.web.machine.Watched;
import fabbrica.web.plan.Plates;
import fabbrica.web.platform.Moments;
import fabbrica.web.platform.Say;
import fabbrica.web.ticket.NextStep;
import fabbrica.web.ticket.Ticket;
import fabbrica.web.ticket.TicketSection;
import fabbrica.web.ticket.TicketState;
import java.time.Instant;
import java.util.List;
import java.util.Locale;
import java.util.Objects;
import java.util.Optional;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Component;

/** A ticket's runs: what was promised and what came of it. */
@Component
class RunsSection implements TicketSection {

    private final Runs runs;
    private final Plates plates;
    private final Machines machines;
    private final Moments moments;
    private final Say say;

    RunsSection(Runs runs, Plates plates, Machines machines, Moments moments, Say say) {
        this.runs = runs;
        this.plates = plates;
        this.machines = machines;
        this.moments = moments;
        this.say = say;
    }

    /**
     * @param good    copies that came out well so far
     * @param surplus copies beyond what is wanted, on plates that are not printed yet
     * @param machines that are at one of them
     */
    record RunsPage(Ticket ticket, List<Attempt> attempts, long good, int surplus, List<Watched> machines) {

        /** The run whose failed copies may be laid again from here, in a list of one. */
        public List<Run> again() {
            return ticket.state() == TicketState.FAILED && attempts.getLast().hasFailed() ? List.of(attempts.getLast().run()) : List.of();
        }

        public boolean mayBePutRight() {
            return ticket.state() != TicketState.HANDED_OUT;
        }
    }

    /** A run with how the ticket's own copies on it ended; none while it goes on. */
    record Attempt(Run run, List<RunCopy> copies) {

        public double grams() {
            return copies.stream().mapToDouble(RunCopy::grams).sum();
        }

        /** How each ended, in words. */
        public String outcomes() {
            return copies.stream().map(copy -> copy.outcome().label()).collect(Collectors.joining(", "));
        }

        boolean hasFailed() {
            return copies.stream().anyMatch(copy -> !copy.outcome().isGood());
        }
    }

    @Override
    public String name() {
        return "runs";
    }

    @Override
    public String title() {
        return "Floor";
    }

    @Override
    public int place() {
        return 50;
    }

    @Override
    public Optional<Shown> show(Ticket ticket, Visit visit) {
        List<Run> all = runs.ofTickets(List.of(ticket.id()));
        if (all.isEmpty()) {
            return Optional.empty();
        }
        List<RunCopy> copies = runs.copies(all.stream().map(Run::id).toList()).stream().filter(copy -> copy.ticketId() == ticket.id()).toList();
        RunsPage page = new RunsPage(ticket, all.stream().map(run -> new Attempt(run, copies.stream()
                .filter(copy -> copy.runId() == run.id()).toList())).toList(), copies.stream().filter(copy -> copy.outcome().isGood()).count(),
                plates.copies(ticket.id()).surplus(), all.stream().filter(run -> run.endedAt() == null)
                .flatMap(run -> machines.of(run.printerId()).filter(machine -> Objects.equals(machine.runId(), run.id())).stream()).toList());
        return Optional.of(shown(spoken(all), "floor/runs :: runs", page).offering(next(page)));
    }

    /** "2 runs, the last on Old faithful today 15:10: failed, came off the bed". */
    private String spoken(List<Run> all) {
        Run last = all.getLast();
        Instant ended = last.endedAt();
        String defects = last.defects().stream().map(defect -> ", " + defect.label().toLowerCase(Locale.ROOT)).collect(Collectors.joining());
        String how = ended == null ? "printing since " + moments.say(last.startedAt())
                : "%s %s%s".formatted(say.run(last.state()).substring(2), moments.say(ended), defects);
        return "%s on %s: %s".formatted(all.size() == 1 ? "1 run" : all.size() + " runs, the last", last.printerName(), how);
    }

    /** The end of what prints, and another try of what failed. */
    private static @Nullable NextStep next(RunsPage page) {
        Optional<Attempt> printing = page.attempts().stream().filter(attempt -> attempt.run().endedAt() == null).findFirst();
        if (page.machines().stream().anyMatch(Watched::holdsOn)) {
            return null;
        }
        if (printing.isPresent()) {
            return NextStep.go("How did it end?", "/floor/runs/%d/end".formatted(printing.get().run().id()), "It prints on %s."
                    .formatted(printing.get().run().printerName()));
        }
        return page.again().isEmpty() ? null : NextStep.press("Try again with everything kept", "again", "Or change one thing in the plan.");
    }
}
