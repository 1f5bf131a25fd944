package fabbrica.web.mine;

import fabbrica.web.account.Addresses;
import fabbrica.web.account.Member;
import fabbrica.web.account.Members;
import fabbrica.web.counter.Intake;
import fabbrica.web.notice.Notices;
import fabbrica.web.platform.FormValues;
import fabbrica.web.platform.Refusal;
import fabbrica.web.platform.Seen;
import fabbrica.web.stores.Inventory;
import fabbrica.web.ticket.Acceptance;
import fabbrica.web.ticket.Charges;
import fabbrica.web.ticket.RequestForm;
import fabbrica.web.ticket.Ticket;
import fabbrica.web.ticket.Ticket.Request;
import fabbrica.web.ticket.TicketState;
import fabbrica.web.ticket.Tickets;
import jakarta.servlet.http.HttpServletResponse;
import java.io.IOException;
import java.io.InputStream;
import java.security.Principal;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Optional;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Controller;
import org.springframework.ui.Model;
import org.springframework.util.MultiValueMap;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestHeader;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.multipart.MultipartFile;
import org.springframework.web.servlet.mvc.support.RedirectAttributes;

/** What a member sees and does herself. */
@Controller
class MineController {

    private static final String TO_PAGE = "HX-Redirect";
    private static final int MOST_TOLD = 5;

    private final Members members;
    private final Tickets tickets;
    private final Intake intake;
    private final OwnTickets own;
    private final RequestForm requests;
    private final Charges charges;
    private final Notices notices;
    private final Inventory inventory;

    MineController(Members members, Tickets tickets, Intake intake, OwnTickets own, RequestForm requests, Charges charges, Notices notices, Inventory inventory) {
        this.members = members;
        this.tickets = tickets;
        this.intake = intake;
        this.own = own;
        this.requests = requests;
        this.charges = charges;
        this.notices = notices;
        this.inventory = inventory;
    }

    /** @param state in plain words */
    record Strip(Ticket ticket, String state) {
    }

    /**
     * @param member null when the account belongs to none
     * @param open   tickets on which something is still to be done, over those on which nothing is
     */
    record MinePage(@Nullable Member member, List<Strip> open, List<Strip> over, List<Notices.Letter> told, int limitMb) {
    }

    @GetMapping("/mine")
    String mine(Principal who, Model page) {
        Optional<Member> member = members.ofAccount(who.getName());
        List<Ticket> all = member.map(each -> tickets.ofMember(each.id())).orElse(List.of());
        Map<Boolean, List<Strip>> byOver = all.stream().map(ticket -> new Strip(ticket, PlainState.of(ticket)))
                .collect(Collectors.partitioningBy(strip -> strip.ticket().state().isOver() && strip.ticket().state() != TicketState.SENT_BACK));
        page.addAttribute("page", new MinePage(member.orElse(null), Objects.requireNonNull(byOver.get(false)), Objects.requireNonNull(byOver.get(true)),
                notices.ofTickets(all.stream().map(Ticket::id).toList(), MOST_TOLD), inventory.lab().limitMb()));
        return "mine/mine";
    }

    /** @param script whether the form was sent by the page's script, which then follows a header to the next page */
    @PostMapping("/mine")
    String handIn(@RequestParam List<MultipartFile> file, @RequestParam String token, Principal who, @RequestHeader(name = "HX-Request", required = false)
            @Nullable String script, HttpServletResponse response, RedirectAttributes flash) throws IOException {
        Member member = member(who);
        List<Long> opened = new ArrayList<>();
        for (int i = 0; i < file.size(); i++) {
            try (InputStream content = file.get(i).getInputStream()) {
                opened.addAll(intake.takeFrom(member.id(), name(file.get(i)), file.get(i).getSize(), content, i == 0 ? token : token + "-" + i, who.getName()));
            }
        }
        flash.addFlashAttribute("told", "Handed in. Say what it is for and by when, then the lab looks at it.");
        String next = opened.size() == 1 ? "/mine/" + opened.getFirst() : "/mine";
        if (script == null) {
            return "redirect:" + next;
        }
        response.setHeader(TO_PAGE, next);
        return "mine/mine :: taken";
    }

    private static String name(MultipartFile file) {
        String name = String.valueOf(file.getOriginalFilename());
        if (file.isEmpty() && name.isEmpty()) {
            throw new Refusal("Choose a file first, or drop one here.");
        }
        return name;
    }

    @PostMapping("/mine/address")
    String address(@RequestParam MultiValueMap<String, String> values, Principal who, RedirectAttributes flash) {
        FormValues form = new FormValues(values);
        String address = Addresses.of(form, "email");
        form.refuseIfWrong();
        members.tell(member(who).id(), address, who.getName());
        flash.addFlashAttribute("told", address.isEmpty() ? "You are told on this page only." : "You are told by mail as well.");
        return "redirect:/mine";
    }

    @GetMapping("/mine/{id}")
    String ticket(@PathVariable long id, Principal who, Model page) {
        Ticket ticket = ofMine(id, who);
        return ticket(ticket, requests.values(ticket.request()), List.of(), page);
    }

    private String ticket(Ticket ticket, MultiValueMap<String, String> values, List<String> problems, Model page) {
        page.addAttribute("problems", problems);
        page.addAttribute("page", own.of(ticket, values.toSingleValueMap()));
        return "mine/ticket";
    }

    /** Where the ticket stands, asked for again while something is measured or worked out. */
    @GetMapping("/mine/{id}/standing")
    String standing(@PathVariable long id, Principal who, Model page) {
        page.addAttribute("page", own.of(ofMine(id, who), Map.of()));
        return "mine/ticket :: standing";
    }

    @PostMapping("/mine/{id}/request")
    String request(@PathVariable long id, @RequestParam MultiValueMap<String, String> values, Principal who, Model page, RedirectAttributes flash) {
        Ticket ticket = ofMine(id, who);
        FormValues form = new FormValues(values);
        Request request = requests.read(form).of(ticket.request().memberId());
        Acceptance.missing(request, member(who)).forEach(form::problem);
        if (!form.fine()) {
            return ticket(ticket, values, form.problems(), page);
        }
        tickets.saveRequest(Seen.unchanged(ticket, form), request);
        flash.addFlashAttribute("told", "Kept. The lab looks at it; you are told here%s.".formatted(member(who).mail().own().isEmpty() ? "" : " and by mail"));
        return "redirect:/mine/" + id;
    }

    @PostMapping("/mine/{id}/answer")
    String answer(@PathVariable long id, @RequestParam MultiValueMap<String, String> values, @RequestParam(required = false) @Nullable MultipartFile file,
                  Principal who, RedirectAttributes flash) throws IOException {
        FormValues form = new FormValues(values);
        Ticket ticket = Seen.unchanged(ofMine(id, who), form);
        String answer = form.text("answer");
        if (file == null || file.isEmpty()) {
            tickets.answer(ticket, answer, null, who.getName());
        } else {
            try (InputStream content = file.getInputStream()) {
                intake.another(name(file), file.getSize(), content, "%s brought this file anew.".formatted(member(who).name()),
                        revision -> tickets.answer(ticket, answer, revision, who.getName()));
            }
        }
        flash.addFlashAttribute("told", "Sent. The lab looks at it again.");
        return "redirect:/mine/" + id;
    }

    @PostMapping("/mine/{id}/withdraw")
    String withdraw(@PathVariable long id, @RequestParam MultiValueMap<String, String> values, Principal who, RedirectAttributes flash) {
        FormValues form = new FormValues(values);
        String why = form.text("why");
        tickets.withdraw(Seen.unchanged(ofMine(id, who), form), why.isEmpty() ? "its member no longer needs it" : why, who.getName());
        flash.addFlashAttribute("told", "Withdrawn. It is not printed any more.");
        return "redirect:/mine/" + id;
    }

    /** Yes to the price that was asked about. */
    @PostMapping("/mine/{id}/yes")
    String yes(@PathVariable long id, @RequestParam MultiValueMap<String, String> values, Principal who, RedirectAttributes flash) {
        charges.agree(Seen.unchanged(ofMine(id, who), new FormValues(values)), who.getName());
        flash.addFlashAttribute("told", "Thank you. It is printed when its turn comes.");
        return "redirect:/mine/" + id;
    }

    private Member member(Principal who) {
        return members.ofAccount(who.getName()).orElseThrow(() -> new Refusal("This account belongs to no member yet. Ask the coordinator."));
    }

    /** @throws java.util.NoSuchElementException when it is somebody else's: she learns nothing of it, not even that it is there */
    private Ticket ofMine(long id, Principal who) {
        Member member = member(who);
        return tickets.find(id).filter(ticket -> Objects.equals(ticket.request().memberId(), member.id())).orElseThrow();
    }
}
