package fabbrica.web.floor;

import fabbrica.core.judge.Obstacle;
import fabbrica.core.run.Defect;
import fabbrica.core.run.RunSheet;
import fabbrica.core.run.Sign;
import fabbrica.core.run.Site;
import fabbrica.core.units.OutOfRange;
import fabbrica.core.units.Spoken;
import fabbrica.web.floor.RunEnd.CopyEnd;
import fabbrica.web.floor.RunEnd.Outcome;
import fabbrica.web.floor.Took.Source;
import fabbrica.web.machine.Machines;
import fabbrica.web.machine.Watched;
import fabbrica.web.plan.LaidPlate;
import fabbrica.web.plan.LaidPlate.LaidCopy;
import fabbrica.web.plan.PlateDrawing;
import fabbrica.web.plan.PlateFiles;
import fabbrica.web.plan.Plates;
import fabbrica.web.platform.Back;
import fabbrica.web.platform.FormValues;
import fabbrica.web.platform.Moments;
import fabbrica.web.platform.QrCode;
import fabbrica.web.platform.Refusal;
import fabbrica.web.platform.Seen;
import fabbrica.web.platform.storage.FileStore;
import fabbrica.web.stores.Inventory;
import fabbrica.web.stores.Spools;
import fabbrica.web.stores.StockPrinter;
import fabbrica.web.stores.StockSpool;
import fabbrica.web.ticket.Tickets;
import java.io.IOException;
import java.io.InputStream;
import java.security.Principal;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Map;
import java.util.NoSuchElementException;
import java.util.Objects;
import java.util.Optional;
import java.util.Set;
import java.util.function.Function;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;
import org.springframework.core.io.FileSystemResource;
import org.springframework.core.io.Resource;
import org.springframework.http.MediaType;
import org.springframework.http.ResponseEntity;
import org.springframework.stereotype.Controller;
import org.springframework.ui.Model;
import org.springframework.util.LinkedMultiValueMap;
import org.springframework.util.MultiValueMap;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.multipart.MultipartFile;
import org.springframework.web.servlet.mvc.support.RedirectAttributes;

/** Starting plates, and saying how their copies ended. */
@Controller
class RunController {

    private static final Set<String> PHOTO_TYPES = Set.of("image/jpeg", "image/png", "image/webp");
    private static final int LARGEST_PHOTO_MB = 20;
    private static final String PROPOSED = "proposed-";

    private final Runs runs;
    private final Plates plates;
    private final Tickets tickets;
    private final Inventory inventory;
    private final Spools spools;
    private final FileStore files;
    private final Moments moments;
    private final PlateDrawing drawing;
    private final PlateFiles plateFiles;
    private final RunSheets sheets;
    private final Machines machines;
    private final LastTime lastTime;

    RunController(Runs runs, Plates plates, Tickets tickets, Inventory inventory, Spools spools, FileStore files, Moments moments, PlateDrawing drawing, PlateFiles plateFiles, RunSheets sheets,
                  Machines machines, LastTime lastTime) {
        this.runs = runs;
        this.plates = plates;
        this.tickets = tickets;
        this.inventory = inventory;
        this.spools = spools;
        this.files = files;
        this.moments = moments;
        this.drawing = drawing;
        this.plateFiles = plateFiles;
        this.sheets = sheets;
        this.machines = machines;
        this.lastTime = lastTime;
    }

    @GetMapping("/floor/start/{id}")
    String checklist(@PathVariable long id, Model page) {
        return checklist(plates.plate(id), List.of(), List.of(), page);
    }

    /** What happened when something like it was printed before. */
    @GetMapping("/floor/start/{id}/before")
    String before(@PathVariable long id, Model page) {
        page.addAttribute("page", lastTime.of(plates.plate(id)));
        return "floor/before :: before";
    }

    @PostMapping("/floor/start/{id}")
    String start(@PathVariable long id, @RequestParam MultiValueMap<String, String> values, Principal who, Model page, RedirectAttributes flash) {
        LaidPlate plate = Seen.unchanged(plates.plate(id), new FormValues(values));
        List<String> ticked = values.getOrDefault("checked", List.of());
        if (plate.waits() && ticked.size() < sheets.of(plate).before().size()) {
            return checklist(plate, ticked, List.of("Tick every line once it is true; then the run can start."), page);
        }
        flash.addFlashAttribute("told", runs.start(plate, who.getName()).map(run -> "The run has started. Watch the first layer.")
                .orElse("The machine begins. It warms up first; watch the first layer."));
        return Back.to(new FormValues(values), "/floor");
    }

    /** Puts a plate's file on its machine. */
    @PostMapping("/floor/start/{id}/send")
    String send(@PathVariable long id, @RequestParam MultiValueMap<String, String> values) throws IOException {
        LaidPlate plate = Seen.unchanged(plates.plate(id), new FormValues(values));
        if (!plate.waits()) {
            throw new Refusal("This plate is not waiting for its printer.");
        }
        machines.load(plate.plan().printerId(), id, plateFiles.mark(plate), plateFiles.of(plate).content());
        return "redirect:/floor/start/" + id;
    }

    /** @param ends when it is promised to end if it is started now */
    record SheetPage(StartPage start, PlateDrawing.@Nullable Sheet drawing, String file, String qr, Instant ends) {
    }

    /** The checklist on a sheet of paper, to take along to the printer. */
    @GetMapping("/floor/start/{id}/sheet")
    String sheet(@PathVariable long id, Model page) {
        page.addAttribute("page", sheetPage(id));
        return "floor/sheet";
    }

    /** A label for what carries the file or the spool to the printer. */
    @GetMapping("/floor/start/{id}/label")
    String label(@PathVariable long id, Model page) {
        page.addAttribute("page", sheetPage(id));
        return "floor/label";
    }

    private SheetPage sheetPage(long id) {
        LaidPlate plate = plates.plate(id);
        if (!plate.waits() || plate.promise() == null) {
            throw new Refusal("This plate is not waiting for its printer.");
        }
        StartPage start = startPage(plate, List.of());
        return new SheetPage(start, drawing.ofKept(plate, start.printer().printer()), plate.fileName(start.printer().printer()), QrCode.of("/floor/start/" + id),
                moments.now().plus(plate.promise().takes()));
    }

    /** A run that has ended, copy by copy. */
    record RunPage(Run run, LaidPlate plate, Map<Long, RunCopy> ends, boolean again) {
    }

    /** A run that has ended: what became of each copy, and what it took. */
    @GetMapping("/floor/runs/{id}")
    String run(@PathVariable long id, Model page) {
        Run run = runs.run(id);
        if (run.endedAt() == null) {
            return "redirect:/floor/runs/%d/end".formatted(id);
        }
        LaidPlate plate = plates.plate(run.plateId());
        Map<Long, RunCopy> ends = runs.copies(List.of(id)).stream().collect(Collectors.toMap(RunCopy::copyId, Function.identity()));
        page.addAttribute("page", new RunPage(run, plate, ends, runs.mayBeTriedAgain(run, ends.values())));
        return "floor/run";
    }

    @GetMapping("/floor/runs/{id}/end")
    String report(@PathVariable long id, Model page) {
        Run run = runs.run(id);
        MultiValueMap<String, String> values = new LinkedMultiValueMap<>();
        propose(runs.took(run), values);
        runs.brokeOffAtMm(run).ifPresent(mm -> Arrays.stream(Defect.values()).filter(Defect::hasHeight)
                .forEach(defect -> values.set("height-" + defect.name(), Spoken.number(mm, 1))));
        return report(run, values, List.of(), page);
    }

    /** As it was written down. */
    private static Took written(Run run) {
        return new Took(Objects.requireNonNull(run.realMinutes()), Objects.requireNonNull(run.minutesFrom()), Objects.requireNonNull(run.realG()),
                Objects.requireNonNull(run.gramsFrom()));
    }

    /** What a form proposes; what somebody has touched stays. */
    private static void propose(Took took, MultiValueMap<String, String> values) {
        Map.of("minutes", Spoken.number(took.minutes(), 1), "grams", Spoken.number(took.grams(), 1)).forEach((field, now) -> {
            if (untouched(values, field)) {
                values.set(field, now);
            }
            values.set(PROPOSED + field, now);
        });
    }

    private static boolean untouched(MultiValueMap<String, String> values, String field) {
        return Objects.equals(values.getFirst(field), values.getFirst(PROPOSED + field));
    }

    /** Its first layer lies flat. */
    @PostMapping("/floor/runs/{id}/first-layer")
    String looked(@PathVariable long id, @RequestParam MultiValueMap<String, String> values, Principal who, RedirectAttributes flash) {
        FormValues form = new FormValues(values);
        Run run = Seen.unchanged(runs.run(id), form);
        runs.looked(run, who.getName());
        flash.addFlashAttribute("told", "The first layer of %s was seen.".formatted(run.what()));
        return Back.to(form, "/floor");
    }

    /** All came out well, as promised: in one press. */
    @PostMapping("/floor/runs/{id}/well")
    String well(@PathVariable long id, @RequestParam MultiValueMap<String, String> values, Principal who, RedirectAttributes flash) {
        FormValues form = new FormValues(values);
        Run run = Seen.unchanged(runs.run(id), form);
        Took took = runs.took(run);
        runs.endWell(run, who.getName());
        flash.addFlashAttribute("told", "%s came out well; the spool went down by the %s that %s.".formatted(run.what(), Spoken.grams(took.grams()),
                took.told() ? "its machine told" : "were promised"));
        return Back.to(form, "/floor");
    }

    /** The outcome as it was written down, to be put right. */
    @GetMapping("/floor/runs/{id}/correct")
    String correction(@PathVariable long id, Model page) {
        Run run = runs.run(id);
        if (run.endedAt() == null) {
            return "redirect:/floor/runs/%d/end".formatted(id);
        }
        MultiValueMap<String, String> values = new LinkedMultiValueMap<>();
        propose(written(run), values);
        values.set("cause", run.cause());
        values.set("note", run.note());
        values.put("defect", new ArrayList<>(run.defects().stream().map(Defect::name).toList()));
        run.signs().forEach(sign -> {
            values.set("site-" + sign.defect().name(), sign.site().name());
            values.set("height-" + sign.defect().name(), sign.heightMm() == null ? "" : Spoken.number(sign.heightMm(), 2));
        });
        runs.copies(List.of(id)).forEach(copy -> {
            values.set("copy-" + copy.copyId(), copy.outcome().name());
            values.set("reason-" + copy.copyId(), copy.reason());
        });
        return report(run, values, List.of(), page);
    }

    @PostMapping("/floor/runs/{id}/end")
    String end(@PathVariable long id, @RequestParam MultiValueMap<String, String> values,
               @RequestParam(required = false) @Nullable MultipartFile photo, Principal who, Model page, RedirectAttributes flash) throws IOException {
        Run run = runs.run(id);
        boolean corrects = values.containsKey("why");
        Took proposed = corrects ? written(run) : runs.took(run);
        if (proposed.told() && !corrects) {
            // The form may have been opened before the machine said that it is over.
            propose(proposed, values);
        }
        FormValues form = new FormValues(values);
        LaidPlate plate = plates.plate(run.plateId());
        double minutes = form.number("minutes", "Minutes");
        double grams = form.number("grams", "Grams");
        form.made(() -> OutOfRange.check("Minutes", minutes, 0, 100_000, "min")
                + OutOfRange.check("Grams", grams, 0, 100_000, "g"));
        List<CopyEnd> copies = copies(plate, form);
        List<Sign> signs = signs(form);
        boolean failed = copies.stream().anyMatch(copy -> copy.outcome() == Outcome.FAILED);
        if (failed && signs.isEmpty() && form.text("cause").isEmpty() && copies.stream().allMatch(copy -> copy.reason().isEmpty())) {
            form.problem("Say what went wrong: tick a defect or write the cause. The next run learns from it.");
        }
        MultipartFile taken = photo == null || photo.isEmpty() ? null : photo;
        if (taken != null && (!PHOTO_TYPES.contains(taken.getContentType()) || taken.getSize() > LARGEST_PHOTO_MB * 1024L * 1024)) {
            form.problem("A photo may be a JPEG, PNG or WebP of up to %d MB.".formatted(LARGEST_PHOTO_MB));
        }
        double held = spools.spool(run.spoolId()).orElseThrow().spool().remainingG() + (run.realG() == null ? 0 : run.realG());
        if (form.fine() && grams > held && !form.flag("sure")) {
            form.problem("The spool held %s; %s is more. If it is so, tick “sure” and write it down again.".formatted(
                    Spoken.grams(Math.max(0, held)), Spoken.grams(grams)));
            page.addAttribute("question", true);
        }
        if (!form.fine()) {
            return report(run, values, form.problems(), page);
        }
        try (FileStore.Batch batch = files.batch()) {
            String sha256 = null;
            if (taken != null) {
                try (InputStream content = taken.getInputStream()) {
                    sha256 = batch.store(content).sha256();
                }
            }
            Took took = new Took(minutes, untouched(values, "minutes") ? proposed.minutesFrom() : Source.MEASURED, grams,
                    untouched(values, "grams") ? proposed.gramsFrom() : Source.MEASURED);
            RunEnd end = new RunEnd(took, copies, signs, form.text("cause"), form.text("note"), sha256,
                    taken != null ? taken.getContentType() : null);
            if (corrects) {
                runs.correct(run, end, form.text("why"), who.getName());
            } else {
                runs.end(id, end, who.getName());
            }
        } catch (Refusal refusal) {
            if (run.endedAt() != null && !corrects) {
                throw refusal;
            }
            return report(run, values, List.of(refusal.getMessage()), page);
        }
        if (!form.text("shelf").isEmpty()) {
            tickets.tickets(run.tickets()).forEach(ticket -> tickets.shelve(ticket, form.text("shelf")));
        }
        flash.addFlashAttribute("told", "Written down; the spool went down by the grams used.");
        return Back.to(form, run.tickets().size() == 1 ? "/tickets/" + run.tickets().getFirst() : "/floor/runs/" + id);
    }

    /** Lays what failed anew, and puts it into the queue. */
    @PostMapping("/floor/runs/{id}/again")
    String again(@PathVariable long id, @RequestParam MultiValueMap<String, String> values, Principal who, RedirectAttributes flash) {
        long plate = runs.again(Seen.unchanged(runs.run(id), new FormValues(values)), who.getName());
        flash.addFlashAttribute("told", "What failed is queued again with everything kept. Change one thing at a time.");
        return "redirect:/plates/" + plate;
    }

    @GetMapping("/floor/runs/{id}/photo")
    ResponseEntity<Resource> photo(@PathVariable long id) {
        Run run = runs.run(id);
        if (run.photoSha256() == null || run.photoType() == null) {
            throw new NoSuchElementException();
        }
        return ResponseEntity.ok().contentType(MediaType.parseMediaType(run.photoType()))
                .body(new FileSystemResource(files.path(run.photoSha256())));
    }

    /** What is ticked, with where it is and at what height where that is said. */
    private static List<Sign> signs(FormValues form) {
        return form.all("defect").stream().map(Defect::valueOf).map(defect -> {
            String site = form.text("site-" + defect.name()), height = "height-" + defect.name();
            return new Sign(defect, site.isEmpty() ? defect.usualSite() : Site.valueOf(site), form.text(height).isEmpty() ? null : Double.valueOf(form.number(height, "The height")));
        }).toList();
    }

    /** Every copy by itself; what is not said of one is what is said of all. */
    private static List<CopyEnd> copies(LaidPlate plate, FormValues form) {
        List<CopyEnd> copies = new ArrayList<>();
        for (LaidCopy copy : plate.copies()) {
            String said = form.text("copy-" + copy.id()).isEmpty() ? form.text("ended") : form.text("copy-" + copy.id());
            Optional<Outcome> outcome = Arrays.stream(Outcome.values()).filter(each -> each.name().equals(said)).findFirst();
            if (outcome.isEmpty()) {
                form.problem(plate.copies().size() == 1 ? "Say whether it came out well or failed." : "Say how each copy ended.");
                return List.of();
            }
            Double grams = form.text("grams-" + copy.id()).isEmpty() ? null : Double.valueOf(form.number("grams-" + copy.id(), "Grams of a copy"));
            copies.add(new CopyEnd(copy.id(), outcome.get(), form.text("reason-" + copy.id()), grams));
        }
        return copies;
    }

    /**
     * A plate before it is started: what stands in its way, and what is to be looked at.
     *
     * @param line what stands between it and its machine; null where whoever starts it brings its file along
     */
    record StartPage(LaidPlate plate, StockPrinter printer, @Nullable StockSpool spool, List<Obstacle> obstacles, @Nullable RunSheet sheet, List<String> ticked,
                     @Nullable Line line) {

        /** Not before its file is on its machine, unless somebody brings it along. */
        public boolean mayBegin() {
            return plate.waits() && (line == null || line.readied().file().isPresent() && line.stands().isEmpty());
        }
    }

    /**
     * The way of a plate's file to its machine.
     *
     * @param stands why nothing can be begun there now; empty when it can
     */
    record Line(Machines.Readied readied, String stands) {
    }

    private @Nullable Line line(LaidPlate plate) {
        String printer = plate.plan().printerId();
        Machines.Readied readied = machines.readied(printer, plate.id(), plateFiles.mark(plate));
        return readied.carried() ? null : new Line(readied, machines.obstacle(printer).orElse(""));
    }

    private String checklist(LaidPlate plate, List<String> ticked, List<String> problems, Model page) {
        page.addAttribute("problems", problems);
        page.addAttribute("page", startPage(plate, ticked));
        return "floor/start";
    }

    private StartPage startPage(LaidPlate plate, List<String> ticked) {
        boolean waits = plate.waits();
        return new StartPage(plate, inventory.printer(plate.plan().printerId()).orElseThrow(),
                plate.plan().spoolId() == null ? null : spools.spool(plate.plan().spoolId()).orElse(null),
                waits ? runs.obstacles(plate) : List.<Obstacle>of(), waits ? sheets.of(plate) : null, ticked, waits ? line(plate) : null);
    }

    /**
     * The form on which somebody says how a run ended.
     *
     * @param overdue whether it should have ended, and its machine has not said that it did
     * @param steps   that come before; none once it has ended
     */
    record EndPage(Run run, boolean overdue, LaidPlate plate, List<RunSheet.Line> steps, Watched machine, PlateDrawing.@Nullable Sheet sheet, Outcome[] outcomes, List<Defect> defects, Site[] sites, List<String> ticked) {
    }

    private String report(Run run, MultiValueMap<String, String> values, List<String> problems, Model page) {
        LaidPlate plate = plates.plate(run.plateId());
        page.addAttribute("v", values.toSingleValueMap());
        page.addAttribute("problems", problems);
        page.addAttribute("page", new EndPage(run, run.isOverdue(moments.now()) && !machines.isOver(run.printerId(), run.id()), plate,
                run.endedAt() == null ? sheets.of(plate).after() : List.<RunSheet.Line>of(), machines.of(run.printerId()).orElseThrow(),
                plate.copies().size() > 1 ? drawing.ofKept(plate, inventory.printer(run.printerId()).orElseThrow().printer()) : null,
                Outcome.values(), Arrays.asList(Defect.values()), Site.values(), values.getOrDefault("defect", List.of())));
        return "floor/end";
    }
}
