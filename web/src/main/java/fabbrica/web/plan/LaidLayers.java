package fabbrica.web.plan;

import fabbrica.core.gcode.GcodeLayers;
import fabbrica.core.inspect.Inspection;
import fabbrica.core.inspect.Overhang.Patch;
import fabbrica.core.inspect.Place;
import fabbrica.core.motion.LayerMoves;
import fabbrica.core.motion.Motion;
import fabbrica.core.recipe.Kinematics;
import fabbrica.core.recipe.Printer;
import fabbrica.core.recipe.Recipe;
import fabbrica.core.toolpath.Layer;
import fabbrica.core.toolpath.Milestones;
import fabbrica.core.toolpath.Milestones.Milestone;
import fabbrica.core.toolpath.Milestones.Spot;
import fabbrica.core.toolpath.Toolpath;
import fabbrica.core.units.Progress;
import fabbrica.core.units.Spoken;
import fabbrica.web.platform.Caches;
import fabbrica.web.platform.Estimator;
import fabbrica.web.platform.Inspections;
import fabbrica.web.platform.Lying;
import fabbrica.web.platform.Refusal;
import fabbrica.web.platform.Standing;
import fabbrica.web.platform.Works;
import fabbrica.web.platform.storage.FileStore;
import fabbrica.web.stores.Inventory;
import fabbrica.web.ticket.Plan;
import fabbrica.web.ticket.Planning;
import fabbrica.web.ticket.Planning.Question;
import fabbrica.web.ticket.Ticket;
import jakarta.annotation.PreDestroy;
import java.io.IOException;
import java.io.InputStream;
import java.io.UncheckedIOException;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import org.springframework.stereotype.Service;

/** What there is to look at layer by layer: of a plan, or of a file that somebody sliced elsewhere. */
@Service
class LaidLayers {

    private static final long LARGEST_DRAWN = 60L << 20;

    private final Planning planning;
    private final Estimator estimator;
    private final Inspections inspections;
    private final Inventory inventory;
    private final FileStore files;
    private final Works<Source, Drawn> works = new Works<>(Caches.of(4).softValues().build(),
            "The layers could not be laid. The ticket and the file are safe.", this::draw);

    LaidLayers(Planning planning, Estimator estimator, Inspections inspections, Inventory inventory, FileStore files) {
        this.planning = planning;
        this.estimator = estimator;
        this.inspections = inspections;
        this.inventory = inventory;
        this.files = files;
    }

    /**
     * Layers to be looked at.
     *
     * @param speeds  for each layer, mm/s of each of its paths
     * @param seconds of each layer; empty for a file, which does not say
     */
    record Drawn(Toolpath toolpath, List<double[]> speeds, List<Double> seconds, List<Milestone> milestones) {
    }

    /** What layers are drawn of. */
    sealed interface Source {

        record OfPlan(Estimator.Request request) implements Source {
        }

        record OfFile(String name, String sha256, Printer printer) implements Source {
        }
    }

    Source source(Ticket ticket, Plan plan) {
        return new Source.OfPlan(question(ticket, plan).request());
    }

    Source source(SlicedFile file, Printer printer) {
        if (file.bytes() > LARGEST_DRAWN) {
            throw new Refusal("The file is too large to be drawn; its figures and findings stand on its page.");
        }
        return new Source.OfFile(file.name(), file.sha256(), printer);
    }

    Standing<Drawn> ask(Source source) {
        return works.askPatiently(source);
    }

    Drawn of(Source source) {
        return works.await(source);
    }

    void stop(Source source) {
        works.stop(source);
    }

    @PreDestroy
    void close() {
        works.close();
    }

    /** What the plan would have laid. */
    Question question(Ticket ticket, Plan plan) {
        Printer printer = plan.on(inventory.printer(plan.printerId())
                .orElseThrow(() -> new Refusal("Choose a printer first.")).printer());
        Question question = planning.question(ticket, printer, plan.recipe(), planning.material(ticket, plan));
        if (!question.fit().fits()) {
            throw new Refusal("It does not fit on %s: %s".formatted(printer.name(), question.fit().why()));
        }
        return question;
    }

    private Drawn draw(Source source, Progress progress) {
        return switch (source) {
            case Source.OfPlan(Estimator.Request request) -> draw(request, progress);
            case Source.OfFile(String name, String sha256, Printer printer) -> draw(name, sha256, printer);
        };
    }

    private Drawn draw(Estimator.Request request, Progress progress) {
        Recipe recipe = request.lay().recipe();
        Toolpath toolpath = estimator.toolpath(request.lay(), progress);
        Kinematics kinematics = request.printer().kinematics();
        Motion motion = Motion.of(toolpath, recipe, request.printer(), progress);
        List<double[]> speeds = new ArrayList<>();
        for (int i = 0; i < toolpath.layers().size(); i++) {
            Layer layer = toolpath.layers().get(i);
            LayerMoves moves = new LayerMoves(layer, toolpath.laidBelow(i), recipe, kinematics,
                    motion.layers().get(i).slowedTo());
            double[] mmS = new double[layer.pathCount()];
            for (int path = 0; path < mmS.length; path++) {
                mmS[path] = moves.speedMmS(path);
            }
            speeds.add(mmS);
        }
        return new Drawn(toolpath, speeds, motion.layers().stream().map(Motion.Timing::seconds).toList(),
                Milestones.of(toolpath, spots(request.lay().part())));
    }

    private List<Spot> spots(Lying part) {
        Inspection inspection = inspections.of(part);
        double bottom = inspection.bounds().minZ();
        List<Spot> spots = new ArrayList<>();
        for (Place island : inspection.islands()) {
            spots.add(new Spot(island.z() - bottom, "something begins in mid-air", "Without support under it, it falls."));
        }
        inspection.overhang().patches().stream().max(Comparator.comparingDouble(Patch::areaMm2))
                .ifPresent(patch -> spots.add(new Spot(patch.lowestZMm(), "largest overhang",
                        "%s mm² hang over air from here on.".formatted(Spoken.number(patch.areaMm2(), 0)))));
        return spots;
    }

    private Drawn draw(String name, String sha256, Printer printer) {
        try (InputStream in = files.source(name, sha256).open()) {
            GcodeLayers layers = GcodeLayers.of(in, printer);
            return new Drawn(layers.toolpath(), layers.speeds(), List.of(), Milestones.of(layers.toolpath(), List.of()));
        } catch (IOException e) {
            throw new UncheckedIOException(e);
        }
    }
}
