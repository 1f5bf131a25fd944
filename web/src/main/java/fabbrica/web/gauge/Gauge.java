package fabbrica.web.gauge;

import fabbrica.core.bed.BedFit;
import fabbrica.core.estimate.Expected;
import fabbrica.core.inspect.Finding;
import fabbrica.core.inspect.Inspection;
import fabbrica.core.inspect.Poses;
import fabbrica.core.inspect.Poses.Pose;
import fabbrica.core.inspect.PrintLimits;
import fabbrica.core.judge.Verdict;
import fabbrica.core.mesh.io.ModelFormat;
import fabbrica.core.mesh.io.ply.PlyWriter;
import fabbrica.core.mesh.model.Bounds;
import fabbrica.core.mesh.model.Mesh;
import fabbrica.core.mesh.model.Rotation;
import fabbrica.core.mesh.repair.Repair;
import fabbrica.core.mesh.repair.Split;
import fabbrica.web.plan.Planning;
import fabbrica.web.platform.Inspections;
import fabbrica.web.platform.Meshes;
import fabbrica.web.platform.Refusal;
import fabbrica.web.platform.Standing;
import fabbrica.web.platform.storage.FileStore;
import fabbrica.web.platform.storage.FileStore.Stored;
import fabbrica.web.stores.StockPrinter;
import fabbrica.web.ticket.Revision;
import fabbrica.web.ticket.Ticket;
import fabbrica.web.ticket.Tickets;
import fabbrica.web.ticket.Verdicts;
import java.io.IOException;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.stream.IntStream;
import java.util.stream.Stream;
import org.springframework.stereotype.Service;

/** Changes a ticket's part: turns it, mends it, takes it apart; and says beforehand what a change would do. */
@Service
class Gauge {

    private static final int MOST_PARTS = 50;

    private final Tickets tickets;
    private final Planning planning;
    private final Verdicts verdicts;
    private final Meshes meshes;
    private final Inspections inspections;
    private final FileStore files;

    Gauge(Tickets tickets, Planning planning, Verdicts verdicts, Meshes meshes, Inspections inspections, FileStore files) {
        this.tickets = tickets;
        this.planning = planning;
        this.verdicts = verdicts;
        this.meshes = meshes;
        this.inspections = inspections;
        this.files = files;
    }

    /** A way to lie beside what it would take on the printer in mind. */
    record PosedPart(Pose pose, Ticket ticket, boolean current, Optional<Standing<Expected>> estimate) {
    }

    /**
     * What another scale would do.
     *
     * @param gone findings that are there now and would not be
     * @param come findings that would be there and are not now
     */
    record Rescaled(double percent, Bounds bounds, List<String> fitting, List<Finding> gone, List<Finding> come,
                    double smallestPercent) {
    }

    /** The pose the part has, then the best ones found. */
    List<PosedPart> poses(Ticket ticket) {
        Pose now = Poses.pose(meshes.mesh(ticket.shaped().turned(Rotation.NONE).part()), ticket.rotation());
        List<Pose> poses = Stream.concat(Stream.of(now), meshes.poses(ticket.part()).stream().filter(pose -> !isSame(pose, now))).toList();
        List<Ticket> ways = poses.stream().map(pose -> pose == now ? ticket : ticket.turned(pose.rotation())).toList();
        List<Optional<Standing<Expected>>> estimates = planning.everydayEstimates(ways);
        return IntStream.range(0, poses.size()).mapToObj(i -> new PosedPart(poses.get(i), ways.get(i), i == 0, estimates.get(i)))
                .sorted(Comparator.comparingDouble((PosedPart part) -> part.pose().score()).reversed()).toList();
    }

    /** Two poses are one when the same direction points down. */
    private static boolean isSame(Pose a, Pose b) {
        double[] m = a.rotation().matrix(), n = b.rotation().matrix();
        return m[6] * n[6] + m[7] * n[7] + m[8] * n[8] > 0.9999;
    }

    Rescaled rescaled(Ticket ticket, double percent) {
        Ticket other = ticket.shaped().scaled(percent);
        Map<StockPrinter, BedFit> fitsNow = verdicts.fits(ticket), fitsThen = verdicts.fits(other);
        PrintLimits limits = verdicts.limits(ticket, fitsNow);
        Inspection now = inspections.of(ticket.part()), then = inspections.of(other.part());
        List<Finding> before = Verdict.of(now, limits, fitsNow.values()).findings();
        List<Finding> after = Verdict.of(then, limits, fitsThen.values()).findings();
        return new Rescaled(percent, then.bounds(),
                fitsThen.entrySet().stream().filter(fit -> fit.getValue().fits()).map(fit -> fit.getKey().name()).toList(),
                missing(before, after), missing(after, before),
                ticket.scalePercent() * limits.smallestScale(now.thickness()));
    }

    /** Findings of the first list whose kind and weight are not in the second. */
    private static List<Finding> missing(List<Finding> from, List<Finding> in) {
        return from.stream().filter(finding -> in.stream().noneMatch(other -> other.code() == finding.code()
                && other.severity() == finding.severity())).toList();
    }

    /** Turns the part so that a face with this outward normal, as the part lies now, becomes its foot. */
    void faceDown(Ticket ticket, double nx, double ny, double nz, String who) {
        double length = Math.sqrt(nx * nx + ny * ny + nz * nz);
        if (!(length > 0) || !Double.isFinite(length)) {
            throw new Refusal("Point at a face of the part first.");
        }
        tickets.turn(ticket, ticket.rotation().then(Rotation.bringingDown(nx, ny, nz)), who);
    }

    /** Mends the model as far as that is safe; the mended one becomes a new revision. */
    Repair repair(Ticket ticket, String who) throws IOException {
        double unit = ticket.unit().millimetres();
        Repair repair = Repair.of(meshes.mesh(ticket.shaped().model().kept()).scaled(unit));
        if (repair.changes().isEmpty()) {
            throw new Refusal("There is nothing here that can be repaired safely. "
                    + String.join(" ", repair.left()));
        }
        try (FileStore.Batch batch = files.batch()) {
            tickets.revise(ticket, stored(repair.mesh().scaled(1 / unit), ticket.model().name(),
                    "Repaired: " + String.join(" ", repair.changes()), batch), who);
        }
        return repair;
    }

    /** Gives each body a ticket of its own; the first stays on this one. */
    List<Long> split(Ticket ticket, String who) throws IOException {
        List<Mesh> bodies = Split.of(meshes.mesh(ticket.shaped().model().kept()));
        if (bodies.size() < 2 || bodies.size() > MOST_PARTS) {
            throw new Refusal(bodies.size() < 2 ? "The model is one body; there is nothing to take apart."
                    : "The model has %d bodies; more than %d are not taken apart here.".formatted(bodies.size(), MOST_PARTS));
        }
        try (FileStore.Batch batch = files.batch()) {
            List<Revision> parts = new ArrayList<>();
            for (int i = 1; i <= bodies.size(); i++) {
                parts.add(stored(bodies.get(i - 1), numbered(ticket.model().name(), i),
                        "Body %d of %d of %s.".formatted(i, bodies.size(), ticket.model().name()), batch));
            }
            return tickets.split(ticket, parts, who);
        }
    }

    private static Revision stored(Mesh mesh, String name, String madeBy, FileStore.Batch batch) throws IOException {
        String stem = name.contains(".") ? name.substring(0, name.lastIndexOf('.')) : name;
        FileStore.Writing writing = batch.write();
        PlyWriter.write(mesh, stem, writing.stream());
        Stored stored = writing.finish();
        return new Revision(stem + ".ply", stored.sha256(), stored.bytes(), ModelFormat.PLY, madeBy);
    }

    private static String numbered(String name, int number) {
        int dot = name.lastIndexOf('.');
        return dot < 0 ? name + "-" + number : name.substring(0, dot) + "-" + number + name.substring(dot);
    }
}
