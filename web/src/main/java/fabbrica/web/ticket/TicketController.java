package fabbrica.web.ticket;

import fabbrica.core.bed.BedFit;
import fabbrica.core.judge.Verdict;
import fabbrica.core.units.LengthUnit;
import fabbrica.core.units.OutOfRange;
import fabbrica.web.account.Addresses;
import fabbrica.web.account.Member;
import fabbrica.web.account.Members;
import fabbrica.web.platform.Back;
import fabbrica.web.platform.FormValues;
import fabbrica.web.platform.Outdated;
import fabbrica.web.platform.QrCode;
import fabbrica.web.platform.Refusal;
import fabbrica.web.platform.Seen;
import fabbrica.web.platform.storage.FileStore;
import fabbrica.web.stores.StockPrinter;
import fabbrica.web.ticket.Ticket.Request;
import fabbrica.web.ticket.TicketSection.Shown;
import fabbrica.web.ticket.TicketSection.Visit;
import jakarta.servlet.http.HttpServletRequest;
import jakarta.servlet.http.HttpServletResponse;
import java.security.Principal;
import java.util.Comparator;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Optional;
import java.util.function.BiConsumer;
import java.util.function.Consumer;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;
import org.springframework.core.io.FileSystemResource;
import org.springframework.core.io.Resource;
import org.springframework.http.MediaType;
import org.springframework.http.ResponseEntity;
import org.springframework.stereotype.Controller;
import org.springframework.transaction.support.TransactionTemplate;
import org.springframework.ui.Model;
import org.springframework.util.LinkedMultiValueMap;
import org.springframework.util.MultiValueMap;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.servlet.mvc.support.RedirectAttributes;
import org.springframework.web.servlet.support.RequestContextUtils;

/** A ticket's page, from the verdict to its history, and every step a ticket takes. */
@Controller
class TicketController {

    private static final int MOST_NAMED = 4;

    private final Tickets tickets;
    private final Verdicts verdicts;
    private final Acceptance acceptance;
    private final Members members;
    private final PartDrawing drawing;
    private final RequestForm requests;
    private final Enclosures enclosures;
    private final Charges charges;
    private final FileStore files;
    private final List<TicketSection> sections;
    private final TransactionTemplate transaction;

    TicketController(Tickets tickets, Verdicts verdicts, Acceptance acceptance, Members members, PartDrawing drawing,
                     RequestForm requests, Enclosures enclosures, Charges charges, FileStore files,
                     List<TicketSection> sections, TransactionTemplate transaction) {
        this.tickets = tickets;
        this.verdicts = verdicts;
        this.acceptance = acceptance;
        this.members = members;
        this.drawing = drawing;
        this.requests = requests;
        this.enclosures = enclosures;
        this.charges = charges;
        this.files = files;
        this.sections = sections.stream().sorted(Comparator.comparing(TicketSection::place)).toList();
        this.transaction = transaction;
    }

    /** While a large part is being measured, a page says so and asks again. */
    @GetMapping("/tickets/{id}")
    String ticket(@PathVariable long id, @RequestParam MultiValueMap<String, String> values, Model page, HttpServletRequest request,
                  HttpServletResponse response) {
        Ticket ticket = tickets.ticket(id);
        Visit visit = new Visit(values, null);
        if (!ticket.model().isKept()) {
            page.addAttribute("page", new TicketPage.Gone(ticket, Shown.of(sections, ticket, visit)));
            return "ticket/gone";
        }
        if (!verdicts.ready(ticket)) {
            tellAgain(id, page, request, response);
            page.addAttribute("page", new TicketPage.Measuring(ticket));
            return "ticket/measuring";
        }
        return page(ticket, visit, page);
    }

    /** What the step before has told stands on the page that follows as well. */
    private static void tellAgain(long id, Model page, HttpServletRequest request, HttpServletResponse response) {
        Object told = page.getAttribute("told");
        if (told != null) {
            RequestContextUtils.getOutputFlashMap(request).put("told", told);
            RequestContextUtils.saveOutputFlashMap("/tickets/" + id, request, response);
        }
    }

    /** One section of the page by itself. */
    @GetMapping("/tickets/{id}/sections/{name}")
    String section(@PathVariable long id, @PathVariable String name, @RequestParam MultiValueMap<String, String> values, Model page) {
        Ticket ticket = tickets.ticket(id);
        Shown shown = sections.stream().filter(section -> section.name().equals(name)).findFirst()
                .flatMap(section -> section.show(ticket, new Visit(values, null))).orElseThrow();
        page.addAttribute("section", shown.page());
        return shown.fragment();
    }

    /** Asked by the page that waits: loads it anew once the part is measured. */
    @GetMapping("/tickets/{id}/measured")
    String measured(@PathVariable long id, HttpServletResponse response, Model page) {
        Ticket ticket = tickets.ticket(id);
        if (verdicts.ready(ticket)) {
            response.setHeader("HX-Refresh", "true");
        }
        page.addAttribute("page", new TicketPage.Measuring(ticket));
        return "ticket/measuring :: waiting";
    }

    /** What became of the same file before, on other tickets. */
    @GetMapping("/tickets/{id}/earlier")
    String earlier(@PathVariable long id, Model page) {
        Ticket ticket = tickets.ticket(id);
        String file = tickets.original(ticket).orElse(ticket.model()).kept();
        page.addAttribute("page", tickets.earlier(List.of(file)).getOrDefault(file, List.of()).stream().filter(earlier -> earlier.ticketId() != id).toList());
        return "ticket/history :: earlier";
    }

    /** A picture that came with the model. */
    @GetMapping("/tickets/{id}/enclosed/{enclosure}")
    ResponseEntity<Resource> enclosed(@PathVariable long id, @PathVariable long enclosure) {
        Enclosure picture = enclosures.of(tickets.ticket(id)).stream().filter(each -> each.id() == enclosure && each.sha256() != null).findFirst().orElseThrow();
        return ResponseEntity.ok().contentType(MediaType.parseMediaType(Objects.requireNonNull(picture.type())))
                .body(new FileSystemResource(files.path(Objects.requireNonNull(picture.sha256()))));
    }

    @PostMapping("/tickets/{id}/size")
    String resize(@PathVariable long id, @RequestParam MultiValueMap<String, String> values, Principal who,
                  RedirectAttributes flash) {
        FormValues form = new FormValues(values);
        double scale = form.number("scale", "Scale");
        LengthUnit unit = LengthUnit.ofSymbol(form.text("unit"))
                .orElseThrow(() -> new Refusal("Choose a unit from the list."));
        form.made(() -> OutOfRange.check("Scale", scale, 0.01, 100_000, "%"));
        form.refuseIfWrong();
        tickets.resize(seen(id, form), unit, scale, who.getName());
        flash.addFlashAttribute("told", "The size was changed; everything below is worked out for it.");
        return back(id);
    }

    @PostMapping("/tickets/{id}/request")
    String saveRequest(@PathVariable long id, @RequestParam MultiValueMap<String, String> values, Principal who, Model page,
                       RedirectAttributes flash) {
        return requested(id, values, false, tickets::saveRequest, who.getName(), "Kept.", page, flash);
    }

    @PostMapping("/tickets/{id}/accept")
    String accept(@PathVariable long id, @RequestParam MultiValueMap<String, String> values, Principal who,
                  Model page, RedirectAttributes flash) {
        String turned = acceptance.advised(tickets.ticket(id)).map(up -> ", and turned as advised").orElse("");
        return requested(id, values, true, (ticket, request) -> acceptance.accept(ticket, request, who.getName()), who.getName(),
                "Accepted%s. Next: how it is printed, and on what.".formatted(turned), page, flash);
    }

    @PostMapping("/tickets/{id}/send-back")
    String sendBack(@PathVariable long id, @RequestParam MultiValueMap<String, String> values, Principal who,
                    Model page, RedirectAttributes flash) {
        return decided(id, values, (ticket, why) -> tickets.sendBack(ticket, why, who.getName()), who.getName(),
                "Sent back, with the reason in the history.", page, flash);
    }

    @PostMapping("/tickets/{id}/decline")
    String decline(@PathVariable long id, @RequestParam MultiValueMap<String, String> values, Principal who,
                   Model page, RedirectAttributes flash) {
        return decided(id, values, (ticket, why) -> tickets.decline(ticket, why, who.getName()), who.getName(),
                "Declined, with the reason in the history.", page, flash);
    }

    @PostMapping("/tickets/{id}/reopen")
    String reopen(@PathVariable long id, @RequestParam MultiValueMap<String, String> values, Principal who) {
        tickets.reopen(seen(id, new FormValues(values)), who.getName());
        return back(id);
    }

    @PostMapping("/tickets/{id}/hand-out")
    String handOut(@PathVariable long id, @RequestParam MultiValueMap<String, String> values, Principal who,
                   RedirectAttributes flash) {
        FormValues form = new FormValues(values);
        Ticket ticket = seen(id, form);
        transaction.executeWithoutResult(status -> {
            if (form.flag("paid")) {
                charges.pay(ticket, who.getName());
            }
            tickets.handOut(tickets.ticket(id), who.getName());
        });
        flash.addFlashAttribute("told", form.flag("paid") ? "Paid and handed out." : "Handed out.");
        return Back.to(form, "/tickets/" + id);
    }

    /** Says where it lies until it is collected. */
    @PostMapping("/tickets/{id}/shelf")
    String shelve(@PathVariable long id, @RequestParam MultiValueMap<String, String> values, RedirectAttributes flash) {
        FormValues form = new FormValues(values);
        tickets.shelve(seen(id, form), form.text("shelf"));
        flash.addFlashAttribute("told", "Kept.");
        return back(id);
    }

    /** Puts away what nobody collects. */
    @PostMapping("/tickets/{id}/put-away")
    String putAway(@PathVariable long id, @RequestParam MultiValueMap<String, String> values, Principal who, RedirectAttributes flash) {
        FormValues form = new FormValues(values);
        tickets.putAway(seen(id, form), who.getName());
        flash.addFlashAttribute("told", "Put away; its member is told.");
        return Back.to(form, "/tickets/" + id);
    }

    /** The label that goes on the print, or on its bag. */
    record LabelPage(Ticket ticket, @Nullable Member member, String qr) {
    }

    @GetMapping("/tickets/{id}/label")
    String label(@PathVariable long id, Model page) {
        Ticket ticket = tickets.ticket(id);
        page.addAttribute("page", new LabelPage(ticket, Optional.ofNullable(ticket.request().memberId()).flatMap(members::member).orElse(null), QrCode.of("/tickets/" + id)));
        return "ticket/label";
    }

    @PostMapping("/tickets/{id}/withdraw")
    String withdraw(@PathVariable long id, @RequestParam MultiValueMap<String, String> values, Principal who, Model page,
                    RedirectAttributes flash) {
        return withReason(id, values, (ticket, why) -> tickets.withdraw(ticket, why, who.getName()), "Withdrawn, with the reason in the history.",
                page, flash);
    }

    @PostMapping("/tickets/{id}/take-back-hand-out")
    String takeBackHandOut(@PathVariable long id, @RequestParam MultiValueMap<String, String> values, Principal who, Model page,
                           RedirectAttributes flash) {
        return withReason(id, values, (ticket, why) -> tickets.takeBackHandOut(ticket, why, who.getName()),
                "Taken back; it waits to be handed out.", page, flash);
    }

    private String withReason(long id, MultiValueMap<String, String> values, BiConsumer<Ticket, String> step, String told, Model page,
                              RedirectAttributes flash) {
        String why = new FormValues(values).text("why");
        return taken(id, values, ticket -> step.accept(ticket, why), told, page, flash);
    }

    private String page(Ticket ticket, @Nullable MultiValueMap<String, String> entered, List<String> problems, Model page) {
        page.addAttribute("problems", problems);
        return page(ticket, new Visit(new LinkedMultiValueMap<>(), entered), page);
    }

    private String page(Ticket ticket, Visit visit, Model page) {
        Map<StockPrinter, BedFit> fits = verdicts.fits(ticket);
        Verdict verdict = verdicts.verdict(ticket, fits);
        page.addAttribute("page", new TicketPage(ticket, verdicts.bounds(ticket), verdict,
                verdicts.advice(ticket, fits).stream().filter(PrintAdvice::wanted).map(PrintAdvice::needed).toList(),
                fits.values().stream().filter(BedFit::fits).count(), fits.size(),
                drawing.small(ticket.part()),
                Shown.of(sections, ticket, visit)));
        return "ticket/ticket";
    }

    private Ticket seen(long id, FormValues form) {
        return Seen.unchanged(tickets.ticket(id), form);
    }

    /** A step with the request as it stands in the form. */
    private String requested(long id, MultiValueMap<String, String> values, boolean complete,
                             BiConsumer<Ticket, Request> step, String who, String told, Model page, RedirectAttributes flash) {
        FormValues form = new FormValues(values);
        Asked asked = asked(form, complete);
        return form.fine() ? taken(id, values, ticket -> step.accept(ticket, settled(asked, who)), told, page, flash)
                : page(tickets.ticket(id), values, form.problems(), page);
    }

    /** A decision with its reason; what was typed into the request is kept with it, as far as it can be read. */
    private String decided(long id, MultiValueMap<String, String> values, BiConsumer<Ticket, String> decision, String who,
                           String told, Model page, RedirectAttributes flash) {
        FormValues form = new FormValues(values);
        Asked asked = asked(form, false);
        return taken(id, values, ticket -> {
            if (form.fine()) {
                tickets.saveRequest(ticket, settled(asked, who));
            }
            decision.accept(tickets.ticket(id), form.text("why"));
        }, told, page, flash);
    }

    /** Takes a step in one transaction; when it is refused the form comes back as it was filled in. */
    private String taken(long id, MultiValueMap<String, String> values, Consumer<Ticket> step, String told, Model page,
                         RedirectAttributes flash) {
        try {
            Ticket ticket = seen(id, new FormValues(values));
            transaction.executeWithoutResult(status -> step.accept(ticket));
            flash.addFlashAttribute("told", told);
            return back(id);
        } catch (Refusal refusal) {
            if (refusal instanceof Outdated) {
                values.remove(Seen.FIELD);
            }
            return page(tickets.ticket(id), values, List.of(refusal.getMessage()), page);
        }
    }

    /** @param newcomer a member who is to be added; null when the request names one of the list, or nobody */
    private record Asked(Request request, @Nullable Member newcomer) {
    }

    private Asked asked(FormValues form, boolean complete) {
        Request request = requests.read(form);
        String name = form.text("memberName");
        Optional<Member> member = meant(name, form);
        Member newcomer = member.isPresent() || name.isEmpty() ? null
                : new Member(0, name, form.flag("minor"), form.text("grownUp"), "", "", new HashSet<>())
                .with(new Member.Mail(Addresses.of(form, "email"), Addresses.of(form, "grownUpEmail")));
        if (complete) {
            Acceptance.missing(request, member.orElse(newcomer)).forEach(form::problem);
        }
        return new Asked(request.of(member.map(Member::id).orElse(null)), newcomer);
    }

    /** The member of that name, else the only one in whose name it is, unless it is a newcomer's. */
    private Optional<Member> meant(String name, FormValues form) {
        Optional<Member> member = members.named(name);
        if (member.isPresent() || name.isEmpty() || form.flag("newMember")) {
            return member;
        }
        List<Member> meant = members.search(name);
        if (meant.size() != 1) {
            form.problem(meant.isEmpty() ? "There is no member “%s”. Tick “new member” to add them.".formatted(name) : "“%s” may be %s. Write more of the name."
                    .formatted(name, meant.stream().limit(MOST_NAMED).map(Member::name).collect(Collectors.joining(" or "))));
        }
        return meant.size() == 1 ? Optional.of(meant.getFirst()) : Optional.empty();
    }

    /** The request with its newcomer added to the members. */
    private Request settled(Asked asked, String who) {
        Member newcomer = asked.newcomer();
        return newcomer == null ? asked.request()
                : asked.request().of(members.named(newcomer.name()).map(Member::id).orElseGet(() -> members.add(newcomer, who)));
    }

    private static String back(long id) {
        return "redirect:/tickets/" + id;
    }
}
