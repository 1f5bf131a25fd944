package fabbrica.web.ticket;

import fabbrica.core.judge.Verdict;
import fabbrica.core.mesh.model.Bounds;
import fabbrica.web.ticket.TicketSection.Shown;
import java.util.List;

/**
 * A ticket's page from its head on.
 *
 * @param needs    what it is to be printed with beyond the usual: "supports", "a brim"
 * @param drawing  SVG
 * @param fitting  printers on which it fits, of how many
 * @param sections from the top
 */
record TicketPage(Ticket ticket, Bounds bounds, Verdict verdict, List<String> needs, long fitting, int printers, String drawing,
                  List<Shown> sections) {

    /** Sections that the head leads to. */
    public List<Shown> goOn() {
        return sections.stream().filter(section -> !section.label().isEmpty()).toList();
    }

    /** While its part is being measured. */
    record Measuring(Ticket ticket) {
    }

    /** Of a ticket whose model is no longer kept. */
    record Gone(Ticket ticket, List<Shown> sections) {
    }
}
