package fabbrica.web.plan;

import fabbrica.core.estimate.Calibration;
import fabbrica.core.estimate.Phase;
import fabbrica.core.estimate.Stage;
import fabbrica.core.gcode.GcodeLayers;
import fabbrica.core.inspect.Inspection;
import fabbrica.core.inspect.Overhang.Patch;
import fabbrica.core.inspect.Place;
import fabbrica.core.motion.LayerMoves;
import fabbrica.core.motion.Motion;
import fabbrica.core.printing.PrintShop;
import fabbrica.core.recipe.Kinematics;
import fabbrica.core.recipe.Part;
import fabbrica.core.recipe.Plate;
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
import fabbrica.web.platform.Inspections;
import fabbrica.web.platform.Refusal;
import fabbrica.web.platform.Shop;
import fabbrica.web.platform.SlicedParts;
import fabbrica.web.platform.Standing;
import fabbrica.web.platform.Works;
import fabbrica.web.platform.storage.FileStore;
import fabbrica.web.stores.Lessons;
import jakarta.annotation.PreDestroy;
import java.io.IOException;
import java.io.InputStream;
import java.io.UncheckedIOException;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Map;
import org.springframework.stereotype.Service;

/** What there is to look at layer by layer: of a plan, or of a file that somebody sliced elsewhere. */
@Service
class LaidLayers {

    private final Shop shop;
    private final Inspections inspections;
    private final SlicedParts sliced;
    private final FileStore files;
    private final Lessons lessons;
    private final Works<Source, Drawn> works = new Works<>(Caches.of(4).softValues().build(),
            "The layers could not be laid. The ticket and the file are safe.", this::draw);

    LaidLayers(Shop shop, Inspections inspections, SlicedParts sliced, FileStore files, Lessons lessons) {
        this.shop = shop;
        this.inspections = inspections;
        this.sliced = sliced;
        this.files = files;
        this.lessons = lessons;
    }

    /**
     * Layers to be looked at.
     *
     * @param speeds  for each layer, mm/s of each of its paths
     * @param seconds of each layer, as its printer takes; empty for a file, which does not say
     * @param phases  seconds of each; so too
     */
    record Drawn(Toolpath toolpath, List<double[]> speeds, List<Double> seconds, Map<Phase, Double> phases, List<Milestone> milestones) {

        /** As worked out, as is to be expected of its printer. */
        private Drawn by(Calibration calibration) {
            double printing = calibration.of(Stage.PRINTING).usual();
            return new Drawn(toolpath, speeds, seconds.stream().map(s -> s * printing).toList(), calibration.applied(phases), milestones);
        }
    }

    /** What layers are drawn of. */
    sealed interface Source {

        Printer printer();

        record OfPlate(Shop.Request request) implements Source {

            @Override
            public Printer printer() {
                return request.printer();
            }
        }

        record OfFile(String sha256, Printer printer) implements Source {
        }
    }

    Source source(Shop.Request request) {
        return sliced.fileOf(request.plate()).map(file -> source(file, request.printer())).orElse(new Source.OfPlate(request));
    }

    /** @throws Refusal when the file is too large to be drawn */
    Source source(String sha256, Printer printer) {
        if (sliced.isTooLargeToDraw(sha256)) {
            throw new Refusal("The file is too large to be drawn; its figures and findings stand on its page.");
        }
        return new Source.OfFile(sha256, printer);
    }

    Standing<Drawn> ask(Source source) {
        return works.askPatiently(source).map(drawn -> drawn.by(lessons.calibration(source.printer().id())));
    }

    Drawn of(Source source) {
        return works.await(source).by(lessons.calibration(source.printer().id()));
    }

    void stop(Source source) {
        works.stop(source);
    }

    @PreDestroy
    void close() {
        works.close();
    }

    private Drawn draw(Source source, Progress progress) {
        return switch (source) {
            case Source.OfPlate(Shop.Request request) -> draw(request, progress);
            case Source.OfFile(String sha256, Printer printer) -> draw(sha256, printer);
        };
    }

    private Drawn draw(Shop.Request request, Progress progress) {
        Recipe recipe = request.plate().recipe();
        Kinematics kinematics = request.printer().kinematics();
        PrintShop.Print print = shop.print(request.plate(), request.printer(), progress);
        Toolpath toolpath = print.toolpath();
        Motion motion = print.motion();
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
        return new Drawn(toolpath, speeds, motion.layers().stream().map(Motion.Timing::seconds).toList(), shop.await(request).secondsByPhase(),
                Milestones.of(toolpath, request.plate().copies().stream().map(Plate.Copy::part).distinct()
                .flatMap(part -> spots(part).stream()).toList()));
    }

    private List<Spot> spots(Part part) {
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

    private Drawn draw(String sha256, Printer printer) {
        try (InputStream in = files.source(sha256, sha256).open()) {
            GcodeLayers layers = GcodeLayers.of(in, printer);
            return new Drawn(layers.toolpath(), layers.speeds(), List.of(), Map.of(), Milestones.of(layers.toolpath(), List.of()));
        } catch (IOException e) {
            throw new UncheckedIOException(e);
        }
    }
}
