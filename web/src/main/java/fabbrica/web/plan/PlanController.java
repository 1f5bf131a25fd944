package fabbrica.web.plan;

import fabbrica.core.estimate.Estimate;
import fabbrica.core.estimate.Tariff;
import fabbrica.core.gcode.GcodeFile;
import fabbrica.core.inspect.Severity;
import fabbrica.core.recipe.Material;
import fabbrica.core.recipe.Printer;
import fabbrica.core.recipe.Recipe;
import fabbrica.core.recipe.Spool;
import fabbrica.core.toolpath.Toolpath;
import fabbrica.core.units.Spoken;
import fabbrica.web.account.Member;
import fabbrica.web.account.Members;
import fabbrica.web.platform.CoreVersion;
import fabbrica.web.platform.Estimator;
import fabbrica.web.platform.Meshes;
import fabbrica.web.platform.Refusal;
import fabbrica.web.stores.Inventory;
import fabbrica.web.stores.StockSpool;
import fabbrica.web.ticket.Plan;
import fabbrica.web.ticket.PlanForm;
import fabbrica.web.ticket.Planning;
import fabbrica.web.ticket.Planning.Question;
import fabbrica.web.ticket.Ticket;
import fabbrica.web.ticket.Tickets;
import jakarta.servlet.http.HttpServletResponse;
import java.io.IOException;
import java.util.List;
import java.util.Optional;
import org.springframework.http.ContentDisposition;
import org.springframework.http.HttpHeaders;
import org.springframework.stereotype.Controller;
import org.springframework.ui.Model;
import org.springframework.util.MultiValueMap;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RequestParam;

/** What a plan comes to: its file for the printer and its price. */
@Controller
@RequestMapping("/tickets/{id}")
class PlanController {

    private final Tickets tickets;
    private final Planning planning;
    private final LaidLayers layers;
    private final Inventory inventory;
    private final Estimator estimator;
    private final Meshes meshes;
    private final Members members;

    PlanController(Tickets tickets, Planning planning, LaidLayers layers, Inventory inventory, Estimator estimator, Meshes meshes, Members members) {
        this.tickets = tickets;
        this.planning = planning;
        this.layers = layers;
        this.inventory = inventory;
        this.estimator = estimator;
        this.meshes = meshes;
        this.members = members;
    }

    /** The file of the plan for its printer. */
    @GetMapping("/gcode")
    void gcode(@PathVariable long id, @RequestParam MultiValueMap<String, String> values, HttpServletResponse response)
            throws IOException {
        Ticket ticket = tickets.ticket(id);
        Plan plan = TradeController.plan(values);
        Question question = layers.question(ticket, plan);
        if (!question.reasons().isEmpty()) {
            throw new Refusal(String.join(" ", question.reasons()));
        }
        if (planning.verdict(ticket, planning.fits(ticket)).has(Severity.BLOCK)) {
            throw new Refusal("The model has a finding that stops the print; see the verdict.");
        }
        Printer printer = question.request().printer();
        Material material = question.request().material();
        Toolpath toolpath = estimator.toolpath(question.request().lay());
        Estimate estimate = estimator.await(question.request());
        String name = GcodeFile.name("ticket %d %s".formatted(id, ticket.model().name().replaceFirst("\\.[^.]*$", "")),
                printer, material, estimate.totalSeconds());
        GcodeFile file = GcodeFile.of(toolpath, plan.recipe(), printer, material,
                meshes.mesh(ticket.lying()).turned(question.fit().rotationDeg()).bounds(), question.fit(),
                List.of("Ticket %d: %s".formatted(id, ticket.model().name()), "printer: " + printer.name(),
                        "estimate: %s (%s to %s), %s".formatted(Spoken.duration(estimate.totalSeconds()),
                                Spoken.duration(estimate.earliestSeconds()), Spoken.duration(estimate.latestSeconds()),
                                Spoken.grams(estimate.grams())), "core version: " + CoreVersion.current()));
        java.io.ByteArrayOutputStream whole = new java.io.ByteArrayOutputStream(1 << 20);
        file.write(whole);
        response.setContentType("text/plain; charset=utf-8");
        response.setHeader(HttpHeaders.CONTENT_DISPOSITION, ContentDisposition.attachment().filename(name).build().toString());
        whole.writeTo(response.getOutputStream());
    }

    @GetMapping("/quote")
    String quote(@PathVariable long id, @RequestParam MultiValueMap<String, String> values, Model page) {
        Ticket ticket = tickets.ticket(id);
        Plan plan = TradeController.plan(values);
        Question question = layers.question(ticket, plan);
        Spool spool = planning.spool(plan).map(StockSpool::spool).orElseThrow(() -> new Refusal("Choose a spool first: its price is part of the quote."));
        Estimate estimate = estimator.await(question.request());
        Recipe recipe = plan.recipe();
        Optional<Member> member = Optional.ofNullable(ticket.request().memberId()).flatMap(members::member);
        page.addAttribute("ticket", ticket);
        page.addAttribute("member", member.orElse(null));
        page.addAttribute("lab", inventory.lab());
        page.addAttribute("printer", question.request().printer());
        page.addAttribute("material", question.request().material());
        page.addAttribute("recipe", recipe);
        page.addAttribute("estimate", estimate);
        page.addAttribute("planQuery", PlanForm.query(plan));
        page.addAttribute("quote", inventory.lab().tariff().quote(estimate, recipe.layerHeightMm(),
                ticket.request().quantity(), spool,
                inventory.printer(plan.printerId()).orElseThrow().cost(), used(ticket), tickets.failureShare(plan.printerId()),
                member.map(Member::memberClass).orElse("")));
        return "plan/quote";
    }

    private Tariff.Used used(Ticket ticket) {
        return ticket.request().memberId() == null ? Tariff.Used.NOTHING : tickets.usedThisMonth(ticket.request().memberId());
    }
}
