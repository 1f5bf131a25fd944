package fabbrica.web.plan;

import fabbrica.core.estimate.Expected;
import fabbrica.core.estimate.Tariff;
import fabbrica.core.gcode.GcodeFile;
import fabbrica.core.recipe.Material;
import fabbrica.core.recipe.Printer;
import fabbrica.core.recipe.Recipe;
import fabbrica.core.recipe.RecipeField;
import fabbrica.core.recipe.Refit;
import fabbrica.core.units.Spoken;
import fabbrica.web.account.Member;
import fabbrica.web.account.Members;
import fabbrica.web.plan.Planning.FirstEstimate;
import fabbrica.web.platform.Attachment;
import fabbrica.web.platform.CoreVersion;
import fabbrica.web.platform.FormValues;
import fabbrica.web.platform.Refusal;
import fabbrica.web.platform.Seen;
import fabbrica.web.platform.Shop;
import fabbrica.web.platform.Standing;
import fabbrica.web.platform.storage.Sha256;
import fabbrica.web.stores.Inventory;
import fabbrica.web.stores.Lab;
import fabbrica.web.stores.StockPrinter;
import fabbrica.web.stores.StockSpool;
import fabbrica.web.ticket.PartDrawing;
import fabbrica.web.ticket.Ticket;
import fabbrica.web.ticket.Tickets;
import jakarta.servlet.http.HttpServletResponse;
import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.security.Principal;
import java.util.ArrayList;
import java.util.HexFormat;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Controller;
import org.springframework.ui.Model;
import org.springframework.util.MultiValueMap;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.ResponseBody;
import org.springframework.web.servlet.mvc.support.RedirectAttributes;

/** A ticket's plan: what it takes, its file, its price, and into the queue with it. */
@Controller
class PlanController {

    private final Tickets tickets;
    private final Plans plans;
    private final Planning planning;
    private final PlanPages pages;
    private final Proposals proposals;
    private final Forecasts forecasts;
    private final Plates plates;
    private final PlateFiles plateFiles;
    private final Inventory inventory;
    private final Members members;
    private final Prices prices;
    private final Judging judging;
    private final Shop shop;
    private final PartDrawing drawing;

    PlanController(Tickets tickets, Plans plans, Planning planning, PlanPages pages, Proposals proposals, Forecasts forecasts, Plates plates,
                   PlateFiles plateFiles, Inventory inventory, Members members, Prices prices, Judging judging, Shop shop, PartDrawing drawing) {
        this.tickets = tickets;
        this.plans = plans;
        this.planning = planning;
        this.pages = pages;
        this.proposals = proposals;
        this.forecasts = forecasts;
        this.plates = plates;
        this.plateFiles = plateFiles;
        this.inventory = inventory;
        this.members = members;
        this.prices = prices;
        this.judging = judging;
        this.shop = shop;
        this.drawing = drawing;
    }

    /** First estimates on every printer. */
    record EstimatesPage(Ticket ticket, List<FirstEstimate> estimates) {

        public boolean working() {
            return estimates.stream().anyMatch(estimate -> estimate.standing() instanceof Standing.Working);
        }
    }

    @GetMapping("/tickets/{id}/estimates")
    String firstEstimates(@PathVariable long id, Model page) {
        Ticket ticket = tickets.ticket(id);
        page.addAttribute("page", new EstimatesPage(ticket, planning.firstEstimates(ticket)));
        return "plan/estimates :: table";
    }

    /** The part from above and from the front, to draw boxes on. */
    @GetMapping(path = "/tickets/{id}/sheet", produces = "text/html;charset=utf-8")
    @ResponseBody
    String sheet(@PathVariable long id) {
        return drawing.sheet(tickets.ticket(id).part());
    }

    /** What a ticket that nobody has accepted yet would be printed with, as far as it is worked out. */
    @GetMapping("/tickets/{id}/promise")
    String promise(@PathVariable long id, Model page) {
        page.addAttribute("page", pages.proposed(planning.desk(tickets.ticket(id), forecasts.floor())));
        return "plan/plan :: promised";
    }

    /** Why a plan cannot be stored, with what the form cannot lose. */
    record RefusedPage(List<String> problems, String printer, String spool, boolean fresh) {
    }

    /** Stores the plan as it stands in the form, and shows what it takes. Another starting point or printer may change the recipe. */
    @PostMapping("/tickets/{id}/plan/preview")
    String preview(@PathVariable long id, @RequestParam MultiValueMap<String, String> values, Model page) {
        Ticket ticket = tickets.ticket(id);
        FormValues form = new FormValues(values);
        Optional<Chosen> chosen = chosen(ticket, values, form);
        if (chosen.isEmpty()) {
            page.addAttribute("page", new RefusedPage(form.problems(), form.text("printer"), form.text("spool"), form.flag("fresh")));
            return "plan/plan :: refused";
        }
        RecipePage recipe = RecipePage.of(chosen.get().entry());
        PlanPages.PreviewPage preview = pages.preview(planning.desk(ticket, forecasts.floor()), plans.keep(chosen.get().entry()));
        page.addAttribute("page", recipe.madeFor().equals(form.text(RecipePage.MADE_FOR)) ? preview : preview.with(recipe, chosen.get().gave()));
        return "plan/plan :: answer";
    }

    /** @param gave values that somebody had set and that had to give way */
    private record Chosen(PlanEntry entry, List<RecipeField> gave) {
    }

    /** As the form has it; from another starting point the recipe is a new one, on another printer it is fitted to that. */
    private Optional<Chosen> chosen(Ticket ticket, MultiValueMap<String, String> values, FormValues form) {
        String madeFor = form.text(RecipePage.MADE_FOR);
        Optional<StockPrinter> printer = inventory.printer(form.text("printer")), from = inventory.printer(madeFor.substring(madeFor.indexOf(' ') + 1));
        boolean anew = !madeFor.isEmpty() && !madeFor.startsWith(PlanForm.start(form).code() + " ");
        if (printer.isPresent() && anew) {
            PlanForm.fill(values, proposals.on(ticket, PlanForm.start(form), printer.get()).recipe());
        }
        return PlanForm.read(form).map(plan -> {
            if (anew || printer.isEmpty() || from.isEmpty()) {
                return new Chosen(plan, List.of());
            }
            Refit refit = proposals.refitted(ticket, plan, from.get(), printer.get());
            return new Chosen(plan.with(refit.recipe(), printer.get().id()), refit.set());
        });
    }

    @PostMapping("/tickets/{id}/plan")
    String queue(@PathVariable long id, @RequestParam MultiValueMap<String, String> values, Principal who, RedirectAttributes flash) {
        FormValues form = new FormValues(values);
        Optional<PlanEntry> entry = PlanForm.read(form);
        form.refuseIfWrong();
        Ticket ticket = Seen.unchanged(tickets.ticket(id), form);
        List<Long> made = plates.queue(ticket, plans.keep(entry.orElseThrow()), who.getName());
        flash.addFlashAttribute("told", made.size() == 1 ? "It waits for its printer now. Start it on the Floor."
                : "%d plates wait for the printer now. Start them on the Floor.".formatted(made.size()));
        return "redirect:/tickets/" + id;
    }

    @PostMapping("/estimates/{job}/stop")
    String stop(@PathVariable long job) {
        shop.stop(job);
        return "plan/plan :: stopped";
    }

    /** The file of a plan's plate for its printer; refused as long as anything stops it. */
    @GetMapping("/tickets/{id}/plans/{planId}/gcode")
    void gcode(@PathVariable long id, @PathVariable long planId, @RequestParam(defaultValue = "1") int plate, HttpServletResponse response)
            throws IOException {
        Planning.CarriedOut out = planning.carriedOut(tickets.ticket(id), plans.plan(planId));
        Planning.refuseIfStopped(planning.preview(out.ticket(), out.plan(), "file of ticket " + id).obstacles().stream()
                .filter(obstacle -> out.plan().spoolId() != null || !obstacle.reason().equals("Choose a spool.")).toList());
        if (plate < 1 || plate > out.plates().size()) {
            throw new Refusal("There is no plate %d.".formatted(plate));
        }
        send(GcodeFile.name("Ticket %d".formatted(id), out.ticket().model().name(), out.printer()),
                plateFiles.content(new Shop.Request(out.plates().get(plate - 1), out.printer(), out.material()),
                        List.of("Ticket %d: %s".formatted(id, out.ticket().model().name()))), response);
    }

    /** The file of a plate for its printer; which one was handed out is kept with it. */
    @GetMapping("/plates/{id}/gcode")
    void gcode(@PathVariable long id, HttpServletResponse response) throws IOException {
        PlateFiles.PlateFile file = plateFiles.of(plates.plate(id));
        send(file.name(), file.content(), response);
    }

    private static void send(String name, byte[] content, HttpServletResponse response) throws IOException {
        Attachment.head(response, "text/plain; charset=utf-8", name);
        response.getOutputStream().write(content);
    }

    /** A price for a member, part by part. */
    record QuotePage(Ticket ticket, @Nullable Member member, Lab lab, Printer printer, Material material, String recipe, Plan plan, int plates,
                     Expected total, Tariff.Quote quote) {
    }

    @GetMapping("/tickets/{id}/plans/{planId}/quote")
    String quote(@PathVariable long id, @PathVariable long planId, Model page) {
        Planning.CarriedOut out = planning.carriedOut(tickets.ticket(id), plans.plan(planId));
        StockSpool spool = planning.spool(out.plan().entry()).orElseThrow(() -> new Refusal("Choose a spool first: its price is part of the quote."));
        List<Expected> expected = planning.expected(out);
        Optional<Member> member = Optional.ofNullable(out.ticket().request().memberId()).flatMap(members::member);
        Tariff.Quote quote = prices.of(judging.bench(List.of(out.ticket()), List.of(id)), out.ticket(), expected, out.plan().recipe().layerHeightMm(), spool, out.stock());
        page.addAttribute("page", new QuotePage(out.ticket(), member.orElse(null), inventory.lab(), out.printer(), out.material(),
                out.ticket().isSliced() ? "as its file says" : spoken(out.plan().recipe()), out.plan(), expected.size(), Expected.together(expected), quote));
        return "plan/quote";
    }

    /** What a member may want to know of a recipe: "layer height 0.2 mm, walls 3 lines, infill 15 %". */
    private static String spoken(Recipe recipe) {
        return Stream.of(RecipeField.LAYER_HEIGHT, RecipeField.WALLS, RecipeField.INFILL)
                .map(field -> field.label().toLowerCase(Locale.ROOT) + " " + field.spoken(recipe)).collect(Collectors.joining(", "));
    }
}
