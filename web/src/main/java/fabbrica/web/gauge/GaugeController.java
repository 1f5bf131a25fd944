package fabbrica.web.gauge;

import fabbrica.core.bed.BedFit;
import fabbrica.core.inspect.Coarser;
import fabbrica.core.inspect.Inspection;
import fabbrica.core.judge.Verdict;
import fabbrica.core.mesh.io.ModelFormat;
import fabbrica.core.mesh.io.ModelWriters;
import fabbrica.core.mesh.io.threemf.ThreeMfWriter;
import fabbrica.core.mesh.model.Bounds;
import fabbrica.core.mesh.model.Mesh;
import fabbrica.core.mesh.model.Rotation;
import fabbrica.core.mesh.repair.Repair;
import fabbrica.core.units.OutOfRange;
import fabbrica.web.platform.Attachment;
import fabbrica.web.platform.FormValues;
import fabbrica.web.platform.Inspections;
import fabbrica.web.platform.Meshes;
import fabbrica.web.platform.Refusal;
import fabbrica.web.platform.Seen;
import fabbrica.web.platform.Standing;
import fabbrica.web.stores.StockPrinter;
import fabbrica.web.ticket.Experience;
import fabbrica.web.ticket.PartDrawing;
import fabbrica.web.ticket.PinnedFinding;
import fabbrica.web.ticket.Ticket;
import fabbrica.web.ticket.Tickets;
import fabbrica.web.ticket.Verdicts;
import fabbrica.web.ticket.WaysUp;
import jakarta.servlet.http.HttpServletResponse;
import java.io.BufferedOutputStream;
import java.io.IOException;
import java.io.OutputStream;
import java.nio.ByteBuffer;
import java.nio.ByteOrder;
import java.security.Principal;
import java.util.List;
import java.util.Map;
import org.springframework.http.HttpHeaders;
import org.springframework.http.MediaType;
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
    private final Meshes meshes;
    private final Inspections inspections;
    private final PartDrawing drawing;
    private final Verdicts verdicts;
    private final WaysUp waysUp;

    GaugeController(Gauge gauge, Tickets tickets, Meshes meshes, Inspections inspections,
                    PartDrawing drawing, Verdicts verdicts, WaysUp waysUp) {
        this.gauge = gauge;
        this.tickets = tickets;
        this.meshes = meshes;
        this.inspections = inspections;
        this.drawing = drawing;
        this.verdicts = verdicts;
        this.waysUp = waysUp;
    }

    /** Little-endian: counts of vertices and triangles as int32, x, y, z as float32, corners as int32. */
    @GetMapping("/mesh")
    void mesh(@PathVariable long id, HttpServletResponse response) throws IOException {
        Mesh whole = meshes.mesh(tickets.ticket(id).part());
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

    /** Ways for a part to lie. */
    record PosesPage(Ticket ticket, List<Gauge.PosedPart> poses, PartDrawing drawing) {

        public boolean working() {
            return poses.stream().anyMatch(posed -> posed.estimate().filter(Standing.Working.class::isInstance).isPresent());
        }
    }

    @GetMapping("/poses")
    String poses(@PathVariable long id, Model page) {
        Ticket ticket = tickets.ticket(id);
        page.addAttribute("page", new PosesPage(ticket, gauge.poses(ticket), drawing));
        return "gauge/poses :: table";
    }

    /** What came from where this one comes from. */
    record BeforePage(Ticket ticket, Experience experience) {
    }

    @GetMapping("/before")
    String before(@PathVariable long id, Model page) {
        Ticket ticket = tickets.ticket(id);
        page.addAttribute("page", new BeforePage(ticket, tickets.experience(ticket)));
        return "gauge/before :: before";
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

    @PostMapping("/turn")
    String turn(@PathVariable long id, @RequestParam double w, @RequestParam double x, @RequestParam double y,
                @RequestParam double z, @RequestParam MultiValueMap<String, String> values, Principal who,
                RedirectAttributes flash) {
        tickets.turn(seen(id, values), new Rotation(w, x, y, z), who.getName());
        flash.addFlashAttribute("told", "It lies the new way; everything below is worked out for it.");
        return back(id);
    }

    /** As is advised, or as it was drawn after all. */
    @PostMapping("/way-up")
    String wayUp(@PathVariable long id, @RequestParam String as, @RequestParam MultiValueMap<String, String> values, Principal who,
                 RedirectAttributes flash) {
        Ticket ticket = seen(id, values);
        boolean drawn = as.equals("drawn");
        WaysUp.WayUp way = drawn ? new WaysUp.WayUp(Rotation.NONE, "") : waysUp.known(ticket)
                .orElseThrow(() -> new Refusal("It is being worked out yet which way up it should lie. Try again in a moment."));
        tickets.turn(ticket, way.rotation(), drawn ? "as it was drawn" : "as advised: " + way.reason(), who.getName());
        flash.addFlashAttribute("told", drawn ? "It lies as it was drawn." : "It lies as advised.");
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
        Ticket ticket = tickets.ticket(id).shaped();
        ModelFormat wanted = ModelWriters.formatOf("." + format)
                .orElseThrow(() -> new Refusal("Choose one of the formats from the list."));
        String name = ticket.model().name();
        String stem = (name.contains(".") ? name.substring(0, name.lastIndexOf('.')) : name) + "-ticket-" + id;
        Mesh mesh = meshes.mesh(ticket.part());
        Bounds b = mesh.bounds();
        Mesh standing = mesh.moved(-(b.minX() + b.maxX()) / 2, -(b.minY() + b.maxY()) / 2, -b.minZ());
        Attachment.head(response, MediaType.APPLICATION_OCTET_STREAM_VALUE, stem + "." + format);
        try (OutputStream out = response.getOutputStream()) {
            if (wanted == ModelFormat.THREE_MF) {
                ThreeMfWriter.write(List.of(new ThreeMfWriter.Placed(standing, stem, List.of(placed(ticket)))), stem, out);
            } else {
                ModelWriters.write(standing, wanted, stem, out);
            }
        }
    }

    private ThreeMfWriter.Copy placed(Ticket ticket) {
        return verdicts.fits(ticket).values().stream().filter(BedFit::fits).findFirst()
                .map(fit -> new ThreeMfWriter.Copy(about(fit.rotationDeg()), fit.x(), fit.y(), 0))
                .orElse(new ThreeMfWriter.Copy(Rotation.NONE, 0, 0, 0));
    }

    private static Rotation about(double verticalDeg) {
        double half = Math.toRadians(verticalDeg) / 2;
        return new Rotation(Math.cos(half), 0, 0, Math.sin(half));
    }

    /** All that was measured, to be printed. */
    record ReportPage(Ticket ticket, Inspection inspection, List<String> fitting, Verdict verdict, List<PinnedFinding> findings, String drawing) {
    }

    @GetMapping("/report")
    String report(@PathVariable long id, Model page) {
        Ticket ticket = tickets.ticket(id).shaped();
        Map<StockPrinter, BedFit> fits = verdicts.fits(ticket);
        Verdict verdict = verdicts.verdict(ticket, fits);
        page.addAttribute("page", new ReportPage(ticket, inspections.of(ticket.part()),
                fits.entrySet().stream().filter(fit -> fit.getValue().fits()).map(fit -> fit.getKey().name()).toList(), verdict,
                PinnedFinding.of(verdict.findings()),
                drawing.svg(ticket.part(), verdict.findings().stream().flatMap(finding -> finding.places().stream()).toList())));
        return "gauge/report";
    }

    private Ticket seen(long id, MultiValueMap<String, String> values) {
        return Seen.unchanged(tickets.ticket(id), new FormValues(values));
    }

    private static String back(long id) {
        return "redirect:/tickets/" + id;
    }
}
