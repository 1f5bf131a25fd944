package fabbrica.web.gauge;

import fabbrica.core.bed.BedFit;
import fabbrica.core.bed.Nesting;
import fabbrica.core.inspect.Coarser;
import fabbrica.core.judge.Verdict;
import fabbrica.core.mesh.io.ModelFormat;
import fabbrica.core.mesh.io.ModelWriters;
import fabbrica.core.mesh.io.threemf.ThreeMfWriter;
import fabbrica.core.mesh.model.Bounds;
import fabbrica.core.mesh.model.Mesh;
import fabbrica.core.mesh.model.Rotation;
import fabbrica.core.mesh.repair.Repair;
import fabbrica.core.units.OutOfRange;
import fabbrica.web.platform.FormValues;
import fabbrica.web.platform.Inspections;
import fabbrica.web.platform.Meshes;
import fabbrica.web.platform.Refusal;
import fabbrica.web.platform.Seen;
import fabbrica.web.platform.Standing;
import fabbrica.web.stores.Inventory;
import fabbrica.web.stores.StockPrinter;
import fabbrica.web.ticket.PartDrawing;
import fabbrica.web.ticket.PinnedFinding;
import fabbrica.web.ticket.Planning;
import fabbrica.web.ticket.Ticket;
import fabbrica.web.ticket.Tickets;
import jakarta.servlet.http.HttpServletResponse;
import java.io.BufferedOutputStream;
import java.io.IOException;
import java.io.OutputStream;
import java.net.URLEncoder;
import java.nio.ByteBuffer;
import java.nio.ByteOrder;
import java.nio.charset.StandardCharsets;
import java.security.Principal;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.springframework.http.ContentDisposition;
import org.springframework.http.HttpHeaders;
import org.springframework.stereotype.Controller;
import org.springframework.ui.Model;
import org.springframework.util.MultiValueMap;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.servlet.mvc.support.RedirectAttributes;

/** The Gauge of a ticket: its part in space, ways to lie, other sizes, repair, export and the printed report. */
@Controller
@RequestMapping("/tickets/{id}/gauge")
class GaugeController {

    /** More triangles than this are thinned out for the screen. */
    private static final int MOST_ON_SCREEN = 400_000;
    private static final int SCREEN_CELLS = 250;
    private static final int MOST_COPIES = 200;

    private final Gauge gauge;
    private final Tickets tickets;
    private final Planning planning;
    private final Meshes meshes;
    private final Inspections inspections;
    private final PartDrawing drawing;
    private final PlateDrawing plates;
    private final Inventory inventory;

    GaugeController(Gauge gauge, Tickets tickets, Planning planning, Meshes meshes, Inspections inspections,
                    PartDrawing drawing, PlateDrawing plates, Inventory inventory) {
        this.gauge = gauge;
        this.tickets = tickets;
        this.planning = planning;
        this.meshes = meshes;
        this.inspections = inspections;
        this.drawing = drawing;
        this.plates = plates;
        this.inventory = inventory;
    }

    /** Little-endian: counts of vertices and triangles as int32, x, y, z as float32, corners as int32. */
    @GetMapping("/mesh")
    void mesh(@PathVariable long id, HttpServletResponse response) throws IOException {
        Mesh whole = meshes.mesh(tickets.ticket(id).lying());
        Mesh mesh = whole.triangleCount() <= MOST_ON_SCREEN ? whole : Coarser.of(whole, SCREEN_CELLS);
        response.setContentType("application/octet-stream");
        response.setHeader(HttpHeaders.CACHE_CONTROL, "no-store");
        ByteBuffer word = ByteBuffer.allocate(4).order(ByteOrder.LITTLE_ENDIAN);
        try (OutputStream out = new BufferedOutputStream(response.getOutputStream(), 1 << 16)) {
            out.write(word.putInt(0, mesh.vertexCount()).array());
            out.write(word.putInt(0, mesh.triangleCount()).array());
            for (int v = 0; v < mesh.vertexCount(); v++) {
                out.write(word.putFloat(0, (float) mesh.x(v)).array());
                out.write(word.putFloat(0, (float) mesh.y(v)).array());
                out.write(word.putFloat(0, (float) mesh.z(v)).array());
            }
            for (int i = 0; i < 3 * mesh.triangleCount(); i++) {
                out.write(word.putInt(0, mesh.corner(i / 3, i % 3)).array());
            }
        }
    }

    @GetMapping("/poses")
    String poses(@PathVariable long id, Model page) {
        List<Gauge.PosedPart> poses = gauge.poses(tickets.ticket(id));
        page.addAttribute("ticket", tickets.ticket(id));
        page.addAttribute("poses", poses);
        page.addAttribute("drawing", drawing);
        page.addAttribute("working", poses.stream().anyMatch(posed -> posed.estimate()
                .filter(estimate -> estimate.standing() instanceof Standing.Working).isPresent()));
        return "gauge/poses :: table";
    }

    @GetMapping("/scale")
    String scale(@PathVariable long id, @RequestParam MultiValueMap<String, String> values, Model page) {
        FormValues form = new FormValues(values);
        double percent = form.number("scale", "Scale");
        form.made(() -> OutOfRange.check("Scale", percent, 0.01, 100_000, "%"));
        page.addAttribute("problems", form.problems());
        if (form.fine()) {
            page.addAttribute("rescaled", gauge.rescaled(tickets.ticket(id), percent));
        }
        return "gauge/scale :: preview";
    }

    @GetMapping("/plate")
    String plate(@PathVariable long id, @RequestParam MultiValueMap<String, String> values, Model page) {
        FormValues form = new FormValues(values);
        Optional<Gauge.Layout> layout = layout(id, form);
        page.addAttribute("ticket", tickets.ticket(id));
        page.addAttribute("problems", form.problems());
        layout.ifPresent(l -> {
            page.addAttribute("layout", l);
            page.addAttribute("plates", plates.svg(l));
            page.addAttribute("query", "?printer=%s&spacing=%s&copies=%s&others=%s".formatted(form.text("printer"),
                    form.text("spacing"), form.text("copies"),
                    URLEncoder.encode(form.text("others"), StandardCharsets.UTF_8)));
        });
        return "gauge/plate :: layout";
    }

    /** One plate as 3MF, its parts where they lie. */
    @GetMapping("/plate-{number}.3mf")
    void plateFile(@PathVariable long id, @PathVariable int number, @RequestParam MultiValueMap<String, String> values,
                   HttpServletResponse response) throws IOException {
        FormValues form = new FormValues(values);
        Optional<Gauge.Layout> layout = layout(id, form);
        form.refuseIfWrong();
        List<Nesting.Plate> all = layout.orElseThrow().nesting().plates();
        if (number < 1 || number > all.size()) {
            throw new Refusal("There is no plate %d.".formatted(number));
        }
        List<ThreeMfWriter.Placed> placed = new ArrayList<>();
        for (int item = 0; item < layout.get().parts().size(); item++) {
            Ticket part = layout.get().parts().get(item);
            Mesh mesh = meshes.mesh(part.lying());
            int wanted = item;
            List<ThreeMfWriter.Copy> copies = all.get(number - 1).placements().stream()
                    .filter(placement -> placement.item() == wanted)
                    .map(p -> new ThreeMfWriter.Copy(about(p.rotationDeg()), p.dx(), p.dy(), -mesh.bounds().minZ()))
                    .toList();
            if (!copies.isEmpty()) {
                placed.add(new ThreeMfWriter.Placed(mesh, part.model().name(), copies));
            }
        }
        String stem = "plate-%d-ticket-%d".formatted(number, id);
        attach(response, stem + ".3mf");
        try (OutputStream out = response.getOutputStream()) {
            ThreeMfWriter.write(placed, stem, out);
        }
    }

    private Optional<Gauge.Layout> layout(long id, FormValues form) {
        double spacing = form.number("spacing", "Spacing");
        int copies = form.count("copies", "Copies");
        form.made(() -> OutOfRange.check("Spacing", spacing, 0, 100, "mm"));
        form.made(() -> OutOfRange.check("Copies", copies, 1, MOST_COPIES));
        Optional<StockPrinter> printer = inventory.printer(form.text("printer"));
        if (printer.isEmpty()) {
            form.problem("Choose a printer.");
        }
        List<Ticket> others = new ArrayList<>();
        for (String number : form.text("others").split("[\\s,;]+")) {
            if (!number.isEmpty()) {
                Optional<Ticket> other = number.matches("\\d{1,9}") ? tickets.find(Long.parseLong(number))
                        : Optional.empty();
                other.filter(t -> t.id() != id).ifPresentOrElse(others::add,
                        () -> form.problem("There is no other ticket no. “%s”.".formatted(number)));
            }
        }
        return form.fine() ? Optional.of(gauge.layout(tickets.ticket(id), printer.get(), spacing, copies, others))
                : Optional.empty();
    }

    @PostMapping("/turn")
    String turn(@PathVariable long id, @RequestParam double w, @RequestParam double x, @RequestParam double y,
                @RequestParam double z, @RequestParam MultiValueMap<String, String> values, Principal who,
                RedirectAttributes flash) {
        tickets.turn(seen(id, values), new Rotation(w, x, y, z), who.getName());
        flash.addFlashAttribute("told", "It lies the new way; everything below is worked out for it.");
        return back(id);
    }

    @PostMapping("/face-down")
    String faceDown(@PathVariable long id, @RequestParam double nx, @RequestParam double ny, @RequestParam double nz,
                    @RequestParam MultiValueMap<String, String> values, Principal who, RedirectAttributes flash) {
        gauge.faceDown(seen(id, values), nx, ny, nz, who.getName());
        flash.addFlashAttribute("told", "That face lies on the bed now; everything below is worked out for it.");
        return back(id);
    }

    @PostMapping("/repair")
    String repair(@PathVariable long id, @RequestParam MultiValueMap<String, String> values, Principal who,
                  RedirectAttributes flash) throws IOException {
        Repair repair = gauge.repair(seen(id, values), who.getName());
        flash.addFlashAttribute("told", "Repaired as a new revision; the file as it came is kept. "
                + String.join(" ", repair.changes())
                + (repair.left().isEmpty() ? "" : " Left: " + String.join(" ", repair.left())));
        return back(id);
    }

    @PostMapping("/original")
    String original(@PathVariable long id, @RequestParam MultiValueMap<String, String> values, Principal who,
                    RedirectAttributes flash) {
        tickets.restore(seen(id, values), who.getName());
        flash.addFlashAttribute("told", "The ticket has the file as it came again.");
        return back(id);
    }

    @PostMapping("/split")
    String split(@PathVariable long id, @RequestParam MultiValueMap<String, String> values, Principal who,
                  RedirectAttributes flash) throws IOException {
        List<Long> others = gauge.split(seen(id, values), who.getName());
        flash.addFlashAttribute("told", "The first body stays here; the others are tickets no. %s.".formatted(
                String.join(", ", others.stream().map(String::valueOf).toList())));
        return back(id);
    }

    /** The part as it lies, scaled and mended, standing on the bed; a 3MF has it where it goes on the printer's bed. */
    @GetMapping("/part.{format}")
    void export(@PathVariable long id, @PathVariable String format, HttpServletResponse response) throws IOException {
        Ticket ticket = tickets.ticket(id);
        ModelFormat wanted = ModelWriters.formatOf("." + format)
                .orElseThrow(() -> new Refusal("Choose one of the formats from the list."));
        String name = ticket.model().name();
        String stem = (name.contains(".") ? name.substring(0, name.lastIndexOf('.')) : name) + "-ticket-" + id;
        Mesh mesh = meshes.mesh(ticket.lying());
        Bounds b = mesh.bounds();
        Mesh standing = mesh.moved(-(b.minX() + b.maxX()) / 2, -(b.minY() + b.maxY()) / 2, -b.minZ());
        attach(response, stem + "." + format);
        try (OutputStream out = response.getOutputStream()) {
            if (wanted == ModelFormat.THREE_MF) {
                ThreeMfWriter.write(List.of(new ThreeMfWriter.Placed(standing, stem, List.of(placed(ticket)))), stem, out);
            } else {
                ModelWriters.write(standing, wanted, stem, out);
            }
        }
    }

    private ThreeMfWriter.Copy placed(Ticket ticket) {
        return planning.fits(ticket).values().stream().filter(BedFit::fits).findFirst()
                .map(fit -> new ThreeMfWriter.Copy(about(fit.rotationDeg()), fit.x(), fit.y(), 0))
                .orElse(new ThreeMfWriter.Copy(Rotation.NONE, 0, 0, 0));
    }

    private static Rotation about(double verticalDeg) {
        double half = Math.toRadians(verticalDeg) / 2;
        return new Rotation(Math.cos(half), 0, 0, Math.sin(half));
    }

    private static void attach(HttpServletResponse response, String name) {
        response.setContentType("application/octet-stream");
        response.setHeader(HttpHeaders.CONTENT_DISPOSITION, ContentDisposition.attachment()
                .filename(name, StandardCharsets.UTF_8).build().toString());
    }

    @GetMapping("/report")
    String report(@PathVariable long id, Model page) {
        Ticket ticket = tickets.ticket(id);
        Map<StockPrinter, BedFit> fits = planning.fits(ticket);
        Verdict verdict = planning.verdict(ticket, fits);
        page.addAttribute("ticket", ticket);
        page.addAttribute("inspection", inspections.of(ticket.lying()));
        page.addAttribute("fitting", fits.entrySet().stream().filter(fit -> fit.getValue().fits())
                .map(fit -> fit.getKey().name()).toList());
        page.addAttribute("verdict", verdict);
        page.addAttribute("findings", PinnedFinding.of(verdict.findings()));
        page.addAttribute("drawing", drawing.svg(ticket.lying(), verdict.findings().stream()
                .flatMap(finding -> finding.places().stream()).toList()));
        return "gauge/report";
    }

    private Ticket seen(long id, MultiValueMap<String, String> values) {
        return Seen.unchanged(tickets.ticket(id), new FormValues(values));
    }

    private static String back(long id) {
        return "redirect:/tickets/" + id;
    }
}
