package fabbrica.web.floor;

import fabbrica.web.ticket.Ticket;
import fabbrica.web.ticket.TicketSection;
import java.util.List;
import java.util.Optional;
import org.springframework.stereotype.Component;
import org.springframework.ui.Model;
import org.springframework.util.MultiValueMap;

/** A ticket's runs: what was promised and what came of it. */
@Component
class RunsSection implements TicketSection {

    private final Runs runs;

    RunsSection(Runs runs) {
        this.runs = runs;
    }

    /** A run with how the ticket's own copies on it ended; none while it goes on. */
    record Attempt(Run run, List<RunCopy> copies) {

        public double grams() {
            return copies.stream().mapToDouble(RunCopy::grams).sum();
        }

        /** Whether what failed may be laid again from here. */
        public boolean hasFailed() {
            return copies.stream().anyMatch(copy -> !copy.outcome().isGood());
        }
    }

    @Override
    public int place() {
        return 20;
    }

    @Override
    public Optional<String> show(Ticket ticket, MultiValueMap<String, String> values, Model page) {
        List<Run> all = runs.ofTickets(List.of(ticket.id()));
        List<RunCopy> copies = runs.copies(all.stream().map(Run::id).toList()).stream().filter(copy -> copy.ticketId() == ticket.id()).toList();
        page.addAttribute("runs", all.stream().map(run -> new Attempt(run, copies.stream().filter(copy -> copy.runId() == run.id()).toList())).toList());
        page.addAttribute("done", copies.stream().filter(copy -> copy.outcome().isGood()).count());
        return all.isEmpty() ? Optional.empty() : Optional.of("floor/runs :: runs");
    }
}
