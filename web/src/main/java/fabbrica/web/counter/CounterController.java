package fabbrica.web.counter;

import fabbrica.core.inspect.Inspection;
import fabbrica.core.recipe.Part;
import fabbrica.web.account.Member;
import fabbrica.web.account.Members;
import fabbrica.web.counter.CounterPage.Closed;
import fabbrica.web.counter.CounterPage.Strip;
import fabbrica.web.platform.FormValues;
import fabbrica.web.platform.Inspections;
import fabbrica.web.platform.Moments;
import fabbrica.web.platform.Refusal;
import fabbrica.web.platform.SlicedParts;
import fabbrica.web.platform.Seen;
import fabbrica.web.platform.events.Event;
import fabbrica.web.stores.Inventory;
import fabbrica.web.ticket.Earlier;
import fabbrica.web.ticket.Purpose;
import fabbrica.web.ticket.Ticket;
import fabbrica.web.ticket.TicketState;
import fabbrica.web.ticket.Tickets;
import jakarta.servlet.http.HttpServletResponse;
import java.io.IOException;
import java.io.InputStream;
import java.security.Principal;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.Comparator;
import java.util.HashMap;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Optional;
import java.util.Set;
import java.util.function.Function;
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

/** The Counter: where files are handed over, and what waits for a decision. */
@Controller
class CounterController {

    private static final String TO_PAGE = "HX-Redirect";
    private static final int CLOSED_AT_FIRST = 12;
    private static final int CLOSED_A_PAGE = 100;
    private static final int MOST_FOUND = 100;
    private static final Comparator<Ticket> MOST_URGENT = Comparator.comparing((Ticket ticket) -> ticket.request().neededBy(),
            Comparator.nullsLast(Comparator.naturalOrder()));

    private final Intake intake;
    private final Tickets tickets;
    private final Members members;
    private final Inventory inventory;
    private final Inspections inspections;
    private final SlicedParts sliced;
    private final Groups groups;
    private final Decisions decisions;
    private final Moments moments;

    CounterController(Intake intake, Tickets tickets, Members members, Inventory inventory, Inspections inspections,
                      SlicedParts sliced, Groups groups, Decisions decisions, Moments moments) {
        this.intake = intake;
        this.tickets = tickets;
        this.members = members;
        this.inventory = inventory;
        this.inspections = inspections;
        this.sliced = sliced;
        this.groups = groups;
        this.decisions = decisions;
        this.moments = moments;
    }

    @GetMapping("/counter")
    String counter(Model page) {
        List<Ticket> all = tickets.inStates(TicketState.NEW, TicketState.ACCEPTED, TicketState.FAILED, TicketState.PRINTED);
        Set<Long> grouped = groups.grouped(all.stream().map(Ticket::id).toList());
        List<Ticket> open = all.stream().filter(ticket -> !grouped.contains(ticket.id())).sorted(MOST_URGENT).toList();
        Map<Long, Member> named = membersOf(open);
        Map<Long, Event> last = tickets.latest(open.stream().filter(ticket -> ticket.state().atCounter()).map(Ticket::id).toList());
        Function<Set<TicketState>, List<Strip>> in = states -> open.stream().filter(ticket -> states.contains(ticket.state()))
                .map(ticket -> Strip.of(ticket, named, last.get(ticket.id()))).toList();
        page.addAttribute("counter", new CounterPage(inventory.lab().limitMb(), !inventory.printers().isEmpty(), intake.unsorted(), groups.open(), in.apply(Set.of(TicketState.NEW)),
                in.apply(Set.of(TicketState.ACCEPTED, TicketState.FAILED)), in.apply(Set.of(TicketState.PRINTED)), closed(null, CLOSED_AT_FIRST), Purpose.values()));
        return "counter/counter";
    }

    /** Decides on all tickets that are ticked, or makes a group of them. */
    @PostMapping("/counter/decide")
    String decide(@RequestParam MultiValueMap<String, String> values, @RequestParam String decision, Principal who, RedirectAttributes flash) {
        FormValues form = new FormValues(values);
        List<Ticket> ticked = tickets.tickets(form.all("ticket").stream().map(Long::valueOf).toList());
        ticked.forEach(ticket -> {
            if (!form.text("seen-" + ticket.id()).equals(Seen.of(ticket))) {
                throw new Refusal("Ticket no. %d has changed since this page was opened. Look at it again.".formatted(ticket.id()));
            }
        });
        if (ticked.isEmpty()) {
            throw new Refusal("Tick at least one ticket.");
        }
        String why = form.text("why");
        Purpose purpose = form.text("purpose").isEmpty() ? null : Purpose.valueOf(form.text("purpose"));
        Instant neededBy = form.moment("neededBy", "Needed by").map(moments::at).orElse(null);
        form.refuseIfWrong();
        if (decision.equals("group")) {
            return "redirect:/counter/groups/" + groups.make(form.text("name"), purpose, neededBy, ticked, who.getName());
        }
        Decisions.Outcome outcome = switch (decision) {
            case "accept" -> decisions.accept(ticked, purpose, neededBy, who.getName());
            case "send-back" -> decisions.sendBack(ticked, why, who.getName());
            case "decline" -> decisions.decline(ticked, why, who.getName());
            case "withdraw" -> decisions.withdraw(ticked, why, who.getName());
            default -> throw new IllegalArgumentException(decision);
        };
        flash.addFlashAttribute("told", "%d of %d done.".formatted(outcome.done(), ticked.size()));
        flash.addFlashAttribute("problems", outcome.refused());
        return "redirect:/counter";
    }

    /** What was looked for and found. */
    record SearchPage(String words, List<Strip> found) {
    }

    /** Tickets by any part of the member's or the model's name, or by their number. */
    @GetMapping("/counter/search")
    String search(@RequestParam(defaultValue = "") String words, Model page) {
        List<Ticket> found = tickets.search(words, MOST_FOUND);
        Map<Long, Member> named = membersOf(found);
        page.addAttribute("page", new SearchPage(words, found.stream().map(ticket -> Strip.of(ticket, named, null)).toList()));
        return "counter/search";
    }

    /** Tickets that came to nothing, the latest first. */
    @GetMapping("/counter/closed")
    String closed(@RequestParam(required = false) @Nullable Long before, Model page) {
        page.addAttribute("closed", closed(before, CLOSED_A_PAGE));
        return "counter/closed";
    }

    private Closed closed(@Nullable Long before, int most) {
        List<Ticket> found = tickets.latest(before, most + 1, TicketState.SENT_BACK, TicketState.DECLINED, TicketState.WITHDRAWN);
        List<Ticket> shown = found.subList(0, Math.min(most, found.size()));
        Map<Long, Member> named = membersOf(shown);
        return new Closed(shown.stream().map(ticket -> Strip.of(ticket, named, null)).toList(), found.size() > most ? shown.getLast().id() : null);
    }

    private Map<Long, Member> membersOf(List<Ticket> some) {
        return members.members(some.stream().map(ticket -> ticket.request().memberId()).toList());
    }

    /**
     * @param file   the page's script sends each by itself
     * @param script whether the form was sent by the page's script, which then follows a header to the next page
     */
    @PostMapping("/counter")
    String take(@RequestParam List<MultipartFile> file, @RequestParam String token, Principal who,
                @RequestHeader(name = "HX-Request", required = false) @Nullable String script, HttpServletResponse response, RedirectAttributes flash)
            throws IOException {
        if (file.size() == 1) {
            return next(take(file.getFirst(), token, who), script, response);
        }
        List<String> refused = new ArrayList<>();
        for (int i = 0; i < file.size(); i++) {
            try {
                take(file.get(i), token + "-" + i, who);
            } catch (Refusal refusal) {
                refused.add("%s: %s".formatted(file.get(i).getOriginalFilename(), refusal.getMessage()));
            }
        }
        flash.addFlashAttribute("told", "%d of %d files were taken in.".formatted(file.size() - refused.size(), file.size()));
        flash.addFlashAttribute("problems", refused);
        return next("/counter", script, response);
    }

    /** @return the address where it goes on */
    private String take(MultipartFile file, String token, Principal who) throws IOException {
        if (file.isEmpty() && (file.getOriginalFilename() == null || file.getOriginalFilename().isEmpty())) {
            throw new Refusal("Choose a file first, or drop one here.");
        }
        HandOver handOver;
        try (InputStream content = file.getInputStream()) {
            handOver = intake.take(String.valueOf(file.getOriginalFilename()), file.getSize(), content, token, who.getName());
        }
        List<HandOver.Piece> pieces = handOver.pieces();
        return pieces.size() == 1 && pieces.getFirst().ticketId() != null ? "/tickets/" + pieces.getFirst().ticketId() : "/counter/hand-overs/" + handOver.id();
    }

    private static String next(String next, @Nullable String script, HttpServletResponse response) {
        if (script == null) {
            return "redirect:" + next;
        }
        response.setHeader(TO_PAGE, next);
        return "counter/counter :: taken";
    }

    @GetMapping("/counter/hand-overs/{id}")
    String handOver(@PathVariable long id, Model page) {
        page.addAttribute("v", Map.of());
        return handOver(intake.handOver(id), page);
    }

    /** What was found on one model; nothing while it is measured, nor on a file that is sliced already. */
    record PiecePage(long handOverId, long modelId, boolean sliced, @Nullable Inspection inspection) {
    }

    /** What was found on one model, asked for again while it is being measured. */
    @GetMapping("/counter/hand-overs/{id}/pieces/{modelId}")
    String piece(@PathVariable long id, @PathVariable long modelId, Model page) {
        HandOver.Piece piece = intake.handOver(id).pieces().stream().filter(p -> p.modelId() == modelId && p.part() != null).findFirst()
                .orElseThrow();
        Part part = Objects.requireNonNull(piece.part());
        boolean gcode = sliced.isOne(part);
        page.addAttribute("page", new PiecePage(id, modelId, gcode, gcode ? null : inspections.ask(part).orElse(null)));
        return "counter/hand-over :: piece";
    }

    @PostMapping("/counter/hand-overs/{id}")
    String choose(@PathVariable long id, @RequestParam(required = false, defaultValue = "") List<Long> model,
                  Principal who) {
        List<Long> opened = intake.choose(id, model, who.getName());
        return opened.size() == 1 ? "redirect:/tickets/" + opened.getFirst() : "redirect:/counter";
    }

    /** Takes in a whole class's models at once: each for the member named beside it, all for the same purpose, accepted. */
    @PostMapping("/counter/hand-overs/{id}/class")
    String takeIn(@PathVariable long id, @RequestParam MultiValueMap<String, String> values, Principal who, Model page) {
        FormValues form = new FormValues(values);
        HandOver handOver = intake.handOver(id);
        Purpose purpose = Arrays.stream(Purpose.values()).filter(each -> each.name().equals(form.text("purpose"))).findFirst().orElse(null);
        if (purpose == null) {
            form.problem("Choose what the prints are for.");
        }
        Instant neededBy = form.moment("neededBy", "Needed by").map(moments::at).orElse(null);
        Map<Long, Member> named = new LinkedHashMap<>();
        for (HandOver.Piece piece : handOver.pieces().stream().filter(HandOver.Piece::isOpen).toList()) {
            String name = form.text("member-" + piece.modelId());
            if (!name.isEmpty()) {
                Optional<Member> known = members.named(name);
                if (known.isEmpty() && !form.flag("newMembers")) {
                    form.problem("There is no member “%s”. Tick “add who is not known yet” to add them.".formatted(name));
                }
                named.put(piece.modelId(), known.orElseGet(() -> new Member(0, name, form.flag("minors"), form.text("grownUp"), "", "", new HashSet<>())));
            }
        }
        if (named.values().stream().anyMatch(Member::lacksGrownUp)) {
            form.problem("Name the grown-up who answers for those who are minors.");
        }
        if (named.isEmpty()) {
            form.problem("Name the member beside at least one model.");
        }
        if (!form.fine() || purpose == null) {
            page.addAttribute("problems", form.problems());
            page.addAttribute("v", values.toSingleValueMap());
            return handOver(handOver, page);
        }
        List<Long> opened = intake.takeIn(handOver, named, purpose, form.text("source"), who.getName());
        if (!form.text("group").isEmpty()) {
            groups.make(form.text("group"), purpose, neededBy, tickets.tickets(opened), who.getName());
        }
        return "redirect:/plates/new?" + opened.stream().map(ticket -> "ticket=" + ticket).collect(Collectors.joining("&")) + "&start="
                + purpose.startingPoint().code();
    }

    /**
     * A hand-over to be sorted.
     *
     * @param earlier tickets that had the same files, by the numbers of the models
     */
    record HandOverPage(HandOver handOver, Map<Long, List<Earlier>> earlier, Purpose[] purposes, List<Member> members) {

        public boolean single() {
            return handOver.pieces().size() == 1;
        }

        /** Whether it is one model, which came before. */
        public boolean again() {
            return single() && earlier.values().stream().anyMatch(before -> !before.isEmpty());
        }
    }

    private String handOver(HandOver handOver, Model page) {
        Map<String, List<Earlier>> earlier = tickets.earlier(handOver.pieces().stream().map(HandOver.Piece::part).filter(Objects::nonNull).map(Part::sha256)
                .toList());
        Map<Long, List<Earlier>> byModel = new HashMap<>();
        for (HandOver.Piece piece : handOver.pieces()) {
            Part part = piece.part();
            byModel.put(piece.modelId(), part == null ? List.of() : earlier.getOrDefault(part.sha256(), List.of()).stream()
                    .filter(one -> !Objects.equals(one.ticketId(), piece.ticketId())).toList());
        }
        page.addAttribute("page", new HandOverPage(handOver, byModel, Purpose.values(), members.search("")));
        return "counter/hand-over";
    }
}
