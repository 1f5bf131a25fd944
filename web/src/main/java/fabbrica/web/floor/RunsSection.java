package fabbrica.web.floor;

import fabbrica.web.plan.Plates;
import fabbrica.web.ticket.Ticket;
import fabbrica.web.ticket.TicketSection;
import fabbrica.web.ticket.TicketState;
import java.util.List;
import java.util.Optional;
import java.util.stream.Collectors;
import org.springframework.stereotype.Component;

/** A ticket's runs: what was promised and what came of it. */
@Component
class RunsSection implements TicketSection {

    private final Runs runs;
    private final Plates plates;

    RunsSection(Runs runs, Plates plates) {
        this.runs = runs;
        this.plates = plates;
    }

    /**
     * @param good    copies that came out well so far
     * @param surplus copies beyond what is wanted, on plates that are not printed yet
     */
    record RunsPage(Ticket ticket, List<Attempt> attempts, long good, int surplus) {

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
    public String label() {
        return "its runs";
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
        return shown("floor/runs :: runs", new RunsPage(ticket, all.stream().map(run -> new Attempt(run, copies.stream()
                .filter(copy -> copy.runId() == run.id()).toList())).toList(), copies.stream().filter(copy -> copy.outcome().isGood()).count(),
                plates.copies(ticket.id()).surplus()));
    }
}
