package fabbrica.web.counter;

import fabbrica.core.gcode.GcodeFile;
import fabbrica.web.account.Members;
import fabbrica.web.plan.SlicedFiles;
import fabbrica.web.platform.Inspections;
import fabbrica.web.platform.Refusal;
import fabbrica.web.stores.Inventory;
import fabbrica.web.ticket.TicketState;
import fabbrica.web.ticket.Tickets;
import jakarta.servlet.http.HttpServletResponse;
import java.io.IOException;
import java.io.InputStream;
import java.security.Principal;
import java.util.List;
import org.springframework.stereotype.Controller;
import org.springframework.ui.Model;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestHeader;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.multipart.MultipartFile;

/** The Counter: where files are handed over, and what waits for a decision. */
@Controller
class CounterController {

    private static final String TO_PAGE = "HX-Redirect";

    private final Intake intake;
    private final Tickets tickets;
    private final Members members;
    private final Inventory inventory;
    private final Inspections inspections;
    private final SlicedFiles sliced;

    CounterController(Intake intake, Tickets tickets, Members members, Inventory inventory, Inspections inspections,
                      SlicedFiles sliced) {
        this.intake = intake;
        this.tickets = tickets;
        this.members = members;
        this.inventory = inventory;
        this.inspections = inspections;
        this.sliced = sliced;
    }

    @GetMapping("/counter")
    String counter(Model page) {
        page.addAttribute("limitMb", inventory.lab().limitMb());
        page.addAttribute("handOvers", intake.unsorted());
        page.addAttribute("sliced", sliced.loose());
        page.addAttribute("fresh", tickets.inStates(TicketState.NEW));
        page.addAttribute("toPlan", tickets.inStates(TicketState.ACCEPTED, TicketState.FAILED));
        page.addAttribute("toHandOut", tickets.inStates(TicketState.PRINTED));
        page.addAttribute("closed", tickets.inStates(TicketState.SENT_BACK, TicketState.DECLINED, TicketState.WITHDRAWN).reversed());
        page.addAttribute("names", new MemberNames(members));
        return "counter/counter";
    }

    /** @param script whether the form was sent by the page's script, which then follows a header to the next page */
    @PostMapping("/counter")
    String take(@RequestParam MultipartFile file, @RequestParam String token, Principal who,
                @RequestHeader(name = "HX-Request", required = false) String script, HttpServletResponse response)
            throws IOException {
        if (file.isEmpty() && (file.getOriginalFilename() == null || file.getOriginalFilename().isEmpty())) {
            throw new Refusal("Choose a file first, or drop one here.");
        }
        if (GcodeFile.isNamedSo(String.valueOf(file.getOriginalFilename()))) {
            return next("/sliced/" + sliced.take(null, file.getOriginalFilename(), file.getSize(), file.getInputStream(), token).id(),
                    script, response);
        }
        HandOver handOver;
        try (InputStream content = file.getInputStream()) {
            handOver = intake.take(file.getOriginalFilename(), file.getSize(), content, token, who.getName());
        }
        List<HandOver.Piece> pieces = handOver.pieces();
        return next(pieces.size() == 1 && pieces.getFirst().ticketId() != null
                ? "/tickets/" + pieces.getFirst().ticketId() : "/counter/hand-overs/" + handOver.id(), script, response);
    }

    private static String next(String next, String script, HttpServletResponse response) {
        if (script == null) {
            return "redirect:" + next;
        }
        response.setHeader(TO_PAGE, next);
        return "counter/counter :: taken";
    }

    @GetMapping("/counter/hand-overs/{id}")
    String handOver(@PathVariable long id, Model page) {
        page.addAttribute("handOver", intake.handOver(id));
        return "counter/hand-over";
    }

    /** What was found on one model, asked for again while it is being measured. */
    @GetMapping("/counter/hand-overs/{id}/pieces/{modelId}")
    String piece(@PathVariable long id, @PathVariable long modelId, Model page) {
        HandOver.Piece piece = intake.handOver(id).pieces().stream().filter(p -> p.modelId() == modelId && p.part() != null).findFirst()
                .orElseThrow();
        page.addAttribute("handOverId", id);
        page.addAttribute("modelId", modelId);
        page.addAttribute("inspection", inspections.ask(piece.part()).orElse(null));
        return "counter/hand-over :: piece";
    }

    @PostMapping("/counter/hand-overs/{id}")
    String choose(@PathVariable long id, @RequestParam(required = false, defaultValue = "") List<Long> model,
                  Principal who) {
        List<Long> opened = intake.choose(id, model, who.getName());
        return opened.size() == 1 ? "redirect:/tickets/" + opened.getFirst() : "redirect:/counter";
    }
}
