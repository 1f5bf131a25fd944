package fabbrica.web.ticket;

import fabbrica.core.judge.Verdict;
import fabbrica.core.mesh.model.Bounds;
import fabbrica.web.ticket.TicketSection.Shown;
import java.util.List;
import java.util.Objects;
import org.jspecify.annotations.Nullable;

/**
 * A ticket's page: its head, which stays in view, and its stages, of which the one with the next step stands open.
 *
 * @param needs    what it is to be printed with beyond the usual: "supports", "a brim"
 * @param sketch   SVG
 * @param fitting  printers on which it fits, of how many
 * @param sections from the top
 */
record TicketPage(Ticket ticket, Bounds bounds, Verdict verdict, List<String> needs, long fitting, int printers, String sketch,
                  List<Shown> sections) {

    /** The first that a stage offers; null when all is done. */
    public @Nullable NextStep next() {
        return sections.stream().map(Shown::next).filter(Objects::nonNull).findFirst().orElse(null);
    }

    /** What it takes and when it is there; empty as long as nobody knows. */
    public String promise() {
        return sections.stream().map(Shown::promise).filter(promise -> !promise.isEmpty()).findFirst().orElse("");
    }

    /** Whether a stage stands open: where the next step is taken, unless that leads to another page. */
    public boolean opens(Shown section) {
        return section.open() || section.next() != null && section.next() == next() && section.next().isHere();
    }

    /** While its part is being measured. */
    record Measuring(Ticket ticket) {
    }

    /** Of a ticket whose model is no longer kept. */
    record Gone(Ticket ticket, List<Shown> sections) {
    }
}
