package fabbrica.web.floor;

import fabbrica.core.recipe.Material;
import fabbrica.core.run.Defect;
import fabbrica.core.units.OutOfRange;
import fabbrica.core.units.Spoken;
import fabbrica.web.account.Member;
import fabbrica.web.account.Members;
import fabbrica.web.platform.FormValues;
import fabbrica.web.platform.Moments;
import fabbrica.web.platform.Seen;
import fabbrica.web.platform.storage.FileStore;
import fabbrica.web.stores.Inventory;
import fabbrica.web.stores.Spools;
import fabbrica.web.stores.StockSpool;
import fabbrica.web.ticket.Planning;
import fabbrica.web.ticket.PrinterQueues;
import fabbrica.web.ticket.Run;
import fabbrica.web.ticket.RunEnd;
import fabbrica.web.ticket.Ticket;
import fabbrica.web.ticket.TicketState;
import fabbrica.web.ticket.Tickets;
import java.io.IOException;
import java.io.InputStream;
import java.security.Principal;
import java.time.Duration;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.NoSuchElementException;
import java.util.Optional;
import java.util.Set;
import org.springframework.core.io.FileSystemResource;
import org.springframework.core.io.Resource;
import org.springframework.http.MediaType;
import org.springframework.http.ResponseEntity;
import org.springframework.stereotype.Controller;
import org.springframework.ui.Model;
import org.springframework.util.MultiValueMap;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.multipart.MultipartFile;
import org.springframework.web.servlet.mvc.support.RedirectAttributes;

/** The Floor: every printer, what it prints and what waits; starting runs and saying how they ended. */
@Controller
class FloorController {

    private static final Set<String> PHOTO_TYPES = Set.of("image/jpeg", "image/png", "image/webp");
    private static final int LARGEST_PHOTO_MB = 20;

    private final Tickets tickets;
    private final PrinterQueues queues;
    private final Planning planning;
    private final Inventory inventory;
    private final Spools spools;
    private final Members members;
    private final FileStore files;
    private final Moments moments;
    private final Timeline timeline;

    FloorController(Tickets tickets, PrinterQueues queues, Planning planning, Inventory inventory, Spools spools, Members members,
                    FileStore files, Moments moments, Timeline timeline) {
        this.tickets = tickets;
        this.queues = queues;
        this.planning = planning;
        this.inventory = inventory;
        this.spools = spools;
        this.members = members;
        this.files = files;
        this.moments = moments;
        this.timeline = timeline;
    }

    @GetMapping("/floor")
    String floor(Model page) {
        List<PrinterQueues.PrinterQueue> all = queues.all();
        page.addAttribute("queues", all);
        page.addAttribute("timeline", timeline.svg(all));
        page.addAttribute("failed", tickets.inStates(TicketState.FAILED));
        page.addAttribute("now", moments.now());
        return "floor/floor";
    }

    @GetMapping("/floor/start/{ticketId}")
    String checklist(@PathVariable long ticketId, Model page) {
        return checklist(tickets.ticket(ticketId), List.of(), page);
    }

    @PostMapping("/floor/start/{ticketId}")
    String start(@PathVariable long ticketId, @RequestParam MultiValueMap<String, String> values, Principal who,
                 Model page, RedirectAttributes flash) {
        Ticket ticket = Seen.unchanged(tickets.ticket(ticketId), new FormValues(values));
        if (ticket.state() == TicketState.QUEUED && values.getOrDefault("checked", List.of()).size()
                < checks(ticket).size()) {
            return checklist(ticket, List.of("Tick every line once it is true; then the run can start."), page);
        }
        tickets.start(ticket, planning.prepareSeconds(ticket), who.getName());
        flash.addFlashAttribute("told", "The run has started. Watch the first layer.");
        return "redirect:/floor";
    }

    @GetMapping("/floor/runs/{id}/end")
    String report(@PathVariable long id, Model page) {
        Run run = tickets.run(id);
        double minutes = Math.max(1, Duration.between(run.startedAt(), moments.now()).toSeconds() / 60.0);
        page.addAttribute("v", java.util.Map.of("minutes", Long.toString(Math.round(minutes)), "grams",
                Spoken.number(run.promisedG(), 1)));
        return report(run, List.of(), List.of(), page);
    }

    @PostMapping("/floor/runs/{id}/end")
    String end(@PathVariable long id, @RequestParam MultiValueMap<String, String> values,
               @RequestParam(required = false) MultipartFile photo, Principal who, Model page,
               RedirectAttributes flash) throws IOException {
        Run run = tickets.run(id);
        FormValues form = new FormValues(values);
        double minutes = form.number("minutes", "Minutes");
        double grams = form.number("grams", "Grams");
        form.made(() -> OutOfRange.check("Minutes", minutes, 0, 100_000, "min")
                + OutOfRange.check("Grams", grams, 0, 100_000, "g"));
        boolean failed = form.text("ended").equals("failed");
        if (!failed && !form.text("ended").equals("done")) {
            form.problem("Say whether it came out well or failed.");
        }
        List<Defect> defects = form.all("defect").stream().map(Defect::valueOf).toList();
        if (failed && defects.isEmpty() && form.text("cause").isEmpty()) {
            form.problem("Say what went wrong: tick a defect or write the cause. The next run learns from it.");
        }
        boolean hasPhoto = photo != null && !photo.isEmpty();
        if (hasPhoto && (!PHOTO_TYPES.contains(photo.getContentType())
                || photo.getSize() > LARGEST_PHOTO_MB * 1024L * 1024)) {
            form.problem("A photo may be a JPEG, PNG or WebP of up to %d MB.".formatted(LARGEST_PHOTO_MB));
        }
        double held = spools.spool(run.spoolId()).orElseThrow().spool().remainingG();
        if (form.fine() && grams > held && !form.flag("sure")) {
            form.problem("The spool held %s; %s is more. If it is so, tick “sure” and write it down again.".formatted(
                    Spoken.grams(Math.max(0, held)), Spoken.grams(grams)));
            page.addAttribute("question", true);
        }
        if (!form.fine()) {
            page.addAttribute("v", values.toSingleValueMap());
            return report(run, form.all("defect"), form.problems(), page);
        }
        try (FileStore.Batch batch = files.batch()) {
            String sha256 = null;
            if (hasPhoto) {
                try (InputStream content = photo.getInputStream()) {
                    sha256 = batch.store(content).sha256();
                }
            }
            tickets.end(id, failed ? Run.State.FAILED : Run.State.DONE, new RunEnd(minutes, grams, defects,
                    form.text("cause"), form.text("note"), sha256, hasPhoto ? photo.getContentType() : null),
                    who.getName());
        }
        flash.addFlashAttribute("told", "Written down; the spool went down by the grams used.");
        return "redirect:/tickets/" + run.ticketId();
    }

    @GetMapping("/floor/runs/{id}/photo")
    ResponseEntity<Resource> photo(@PathVariable long id) {
        Run run = tickets.run(id);
        if (run.photoSha256() == null) {
            throw new NoSuchElementException();
        }
        return ResponseEntity.ok().contentType(MediaType.parseMediaType(run.photoType()))
                .body(new FileSystemResource(files.path(run.photoSha256())));
    }

    private String checklist(Ticket ticket, List<String> problems, Model page) {
        Optional<Member> member = Optional.ofNullable(ticket.request().memberId()).flatMap(members::member);
        page.addAttribute("ticket", ticket);
        page.addAttribute("printer", ticket.printerId() == null ? null
                : inventory.printer(ticket.printerId()).orElse(null));
        page.addAttribute("spool", ticket.spoolId() == null ? null : spools.spool(ticket.spoolId()).orElse(null));
        page.addAttribute("checks", ticket.isPlanned() ? checks(ticket) : List.of());
        page.addAttribute("badgeMissing", member.isPresent() && ticket.printerId() != null
                && !member.get().hasBadge(ticket.printerId()));
        page.addAttribute("grownUpMissing", member.map(Member::lacksGrownUp).orElse(false));
        page.addAttribute("member", member.orElse(null));
        page.addAttribute("problems", problems);
        return "floor/start";
    }

    /** What has to be true before the first line (common practice, no source); the maker's manual comes first. */
    private List<String> checks(Ticket ticket) {
        StockSpool spool = spools.spool(ticket.spoolId()).orElseThrow();
        Material material = inventory.material(spool.spool().materialId()).orElseThrow();
        List<String> checks = new ArrayList<>(List.of(
                "The last print is off, the plate is clean and back in place.",
                "%s, %s is loaded and unwinds freely.".formatted(material.name(), spool.spool().colour()),
                "The nozzle cover is on and nothing lies in the way of the head or the bed."));
        if (material.enclosed()) {
            checks.add("The enclosure is closed and the room is ventilated: this material gives off fumes.");
        }
        checks.add("Somebody stays within reach: house rules for unattended printing are kept.");
        return checks;
    }

    private String report(Run run, List<String> ticked, List<String> problems, Model page) {
        page.addAttribute("run", run);
        page.addAttribute("defects", Arrays.asList(Defect.values()));
        page.addAttribute("ticked", ticked);
        page.addAttribute("problems", problems);
        return "floor/end";
    }
}
