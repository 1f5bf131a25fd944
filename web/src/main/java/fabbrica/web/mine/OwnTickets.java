package fabbrica.web.mine;

import fabbrica.core.bed.BedFit;
import fabbrica.core.inspect.Finding;
import fabbrica.core.judge.Verdict;
import fabbrica.core.mesh.model.Bounds;
import fabbrica.web.notice.Notices;
import fabbrica.web.platform.events.Event;
import fabbrica.web.platform.events.Fact;
import fabbrica.web.stores.StockPrinter;
import fabbrica.web.ticket.PartDrawing;
import fabbrica.web.ticket.Purpose;
import fabbrica.web.ticket.Ticket;
import fabbrica.web.ticket.TicketSection;
import fabbrica.web.ticket.TicketSection.Visit;
import fabbrica.web.ticket.TicketState;
import fabbrica.web.ticket.Tickets;
import fabbrica.web.ticket.Verdicts;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Component;
import org.springframework.util.LinkedMultiValueMap;

/** Gathers what a member sees of one of her tickets. */
@Component
class OwnTickets {

    /** Told in full; of the rest the worst comes first. */
    private static final int MOST_FINDINGS = 4;
    /** The stage of a ticket that says what it takes and when it is there. */
    private static final String PROMISING = "plan";

    private final Tickets tickets;
    private final Verdicts verdicts;
    private final PartDrawing drawing;
    private final List<TicketSection> sections;
    private final Notices notices;

    OwnTickets(Tickets tickets, Verdicts verdicts, PartDrawing drawing, List<TicketSection> sections,
               Notices notices) {
        this.tickets = tickets;
        this.verdicts = verdicts;
        this.drawing = drawing;
        this.sections = sections;
        this.notices = notices;
    }

    /**
     * @param state    in plain words
     * @param asked    why it came back or was declined, in the lab's words; empty when nothing is asked
     * @param part     null while it is measured, and once its model is no longer kept
     * @param promise  what it takes and when it is there; empty as long as nobody knows
     * @param code     to collect it by; empty unless it is printed
     * @param told     of this ticket, the latest first
     * @param values   of the form of the request
     */
    record OwnPage(Ticket ticket, String state, String asked, @Nullable OwnPart part, String promise, String code, List<Notices.Letter> told,
                   Map<String, String> values, Purpose[] purposes) {

        /** Whether something is still being measured or worked out. */
        public boolean goesOn() {
            return ticket.model().isKept() && (part == null || promise.isEmpty() && !ticket.state().isOver() && ticket.state() != TicketState.PRINTED);
        }

        public boolean open() {
            return !ticket.state().isOver();
        }

        public boolean canAnswer() {
            return ticket.state() == TicketState.SENT_BACK;
        }

        public boolean canWithdraw() {
            return !ticket.state().isOver() && ticket.state() != TicketState.RUNNING && ticket.state() != TicketState.PRINTED;
        }
    }

    /** @param sheet drawings from above and from the front */
    record OwnPart(Bounds bounds, Verdict verdict, List<Finding> findings, String sheet) {
    }

    OwnPage of(Ticket ticket, Map<String, String> values) {
        boolean measured = ticket.model().isKept() && verdicts.ready(ticket);
        return new OwnPage(ticket, PlainState.of(ticket), asked(ticket), measured ? part(ticket) : null, measured ? promise(ticket) : "",
                ticket.state() == TicketState.PRINTED ? tickets.collectCodes(List.of(ticket.id())).getOrDefault(ticket.id(), "") : "",
                notices.ofTickets(List.of(ticket.id()), Integer.MAX_VALUE), values, Purpose.values());
    }

    private OwnPart part(Ticket ticket) {
        Map<StockPrinter, BedFit> fits = verdicts.fits(ticket);
        Verdict verdict = verdicts.verdict(ticket, fits);
        return new OwnPart(verdicts.bounds(ticket), verdict, verdict.findings().stream().limit(MOST_FINDINGS).toList(),
                drawing.small(ticket.part()));
    }

    private String promise(Ticket ticket) {
        return sections.stream().filter(section -> section.name().equals(PROMISING)).map(section -> section.show(ticket, new Visit(new LinkedMultiValueMap<>(), null))).flatMap(Optional::stream)
                .map(TicketSection.Shown::promise).filter(promise -> !promise.isEmpty()).findFirst().orElse("");
    }

    private String asked(Ticket ticket) {
        boolean put = ticket.state() == TicketState.SENT_BACK || ticket.state() == TicketState.DECLINED;
        return put ? tickets.history(ticket.id()).stream().filter(event -> event.fact() instanceof Fact.SentBack || event.fact() instanceof Fact.Declined)
                .reduce((one, later) -> later).map(Event::why).orElse("") : "";
    }
}
