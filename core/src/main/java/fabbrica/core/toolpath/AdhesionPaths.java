package fabbrica.core.toolpath;

import fabbrica.core.bed.Bed;
import fabbrica.core.recipe.Adhesion;
import fabbrica.core.recipe.LineWork.Seam;
import fabbrica.core.recipe.Recipe;
import fabbrica.core.toolpath.HatchLines.Ruling;
import java.util.ArrayList;
import java.util.List;
import org.locationtech.jts.algorithm.ConvexHull;
import org.locationtech.jts.geom.Coordinate;
import org.locationtech.jts.geom.Envelope;
import org.locationtech.jts.geom.Geometry;
import org.locationtech.jts.geom.Polygon;

/** What is printed around or under the first layer: skirt, brim and ears in loops, raft layers. */
final class AdhesionPaths {

    /** Of a raft's lowest layer, so that it peels off the bed. */
    private static final double COARSE_DENSITY = 0.5;
    /** A corner that turns by more than this lifts first. */
    private static final double SHARP = Math.toRadians(60);
    private static final double SIMPLE_MM = 0.5;
    private static final int EAR_SIDES = 24;
    /** Chords of a quarter circle. */
    private static final int ROUNDNESS = 6;
    private static final double ALMOST_MM = 0.01;

    private final Recipe recipe;
    private final List<Island> firstLayer;
    private final List<double[]> feet;
    private final List<Bed.Zone> kept;

    /**
     * @param firstLayer the areas that touch the bed
     * @param feet       points of supports on the bed
     * @param kept       to be kept free
     */
    AdhesionPaths(Recipe recipe, List<Island> firstLayer, List<double[]> feet, List<Bed.Zone> kept) {
        this.recipe = recipe;
        this.firstLayer = firstLayer;
        this.feet = feet;
        this.kept = kept;
    }

    /** Lays skirt, brim or ear loops, the outermost first, at the start of the first layer. */
    void layLoops(Router router, Layer.Builder layer) {
        double spacing = recipe.lineSpacingMm(recipe.firstLayerHeightMm()), width = recipe.lineWidthMm();
        List<LoopOrder.Loop> loops = new ArrayList<>();
        switch (recipe.adhesion()) {
            case SKIRT -> {
                for (int loop = 0; loop < Adhesion.SKIRT_LOOPS; loop++) {
                    add(loops, around(Adhesion.SKIRT_GAP_MM + width / 2 + loop * spacing,
                            width / 2 + (Adhesion.SKIRT_LOOPS - 1 - loop) * spacing));
                }
            }
            case BRIM -> {
                int count = (int) Math.round(Adhesion.BRIM_MM / spacing);
                for (int loop = count - 1; loop >= 0; loop--) {
                    add(loops, grown(filled(), width / 2 + loop * spacing));
                }
            }
            case EARS -> {
                List<Island> ears = SolidArea.minus(discs(), Island.rings(Offset.outwards(filled(), ALMOST_MM)));
                for (double inset = width / 2; !ears.isEmpty(); inset = spacing) {
                    ears = Offset.inwards(ears, inset);
                    add(loops, ears);
                }
            }
            case NONE, RAFT -> {
            }
        }
        LoopOrder.lay(loops, width, recipe.lineAreaMm2(recipe.firstLayerHeightMm()), recipe.firstLayerHeightMm(), Seam.NEAREST,
                0, router, layer);
    }

    /** The layers under the part; none unless the recipe asks for a raft. */
    List<Layer> raft() {
        List<Layer> layers = new ArrayList<>();
        if (recipe.adhesion() != Adhesion.RAFT || firstLayer.isEmpty()) {
            return layers;
        }
        List<Island> grown = feet.isEmpty() ? grown(filled(), Adhesion.RAFT_MARGIN_MM) : around(Adhesion.RAFT_MARGIN_MM, 0);
        List<double[]> area = grown.stream().map(Island::outline).toList();
        double top = 0;
        for (double height : Adhesion.RAFT_LAYERS_MM) {
            boolean coarse = layers.isEmpty();
            double spacing = recipe.lineSpacingMm(height) / (coarse ? COARSE_DENSITY : 1);
            Layer.Builder layer = new Layer.Builder();
            ZigZag.of(HatchLines.of(area, Ruling.of(layers.size() % 2 == 0 ? 0 : 90, spacing)), recipe.lineWidthMm())
                    .lay(PathType.ADHESION, recipe.lineWidthMm(), recipe.lineAreaMm2(height), new Router(grown, layer),
                            layer);
            top += height;
            layers.add(layer.build(top, height, false));
        }
        return layers;
    }

    /** Round at the corners, so that nothing reaches farther than asked for. */
    private static List<Island> grown(List<Island> areas, double mm) {
        return areas.isEmpty() ? List.of() : Island.of(Island.toJts(areas).buffer(mm, ROUNDNESS));
    }

    /** The hull of all that stands on the bed, grown, less what is to be kept free, grown too. */
    private List<Island> around(double mm, double fromKeptMm) {
        Geometry around = Island.toJts(grown(hull(), mm));
        for (Bed.Zone zone : kept) {
            around = around.difference(Rings.PLANE.toGeometry(new Envelope(zone.minX() - fromKeptMm, zone.maxX() + fromKeptMm,
                    zone.minY() - fromKeptMm, zone.maxY() + fromKeptMm)));
        }
        return Island.of(around).stream().map(island -> new Island(island.outline(), List.of())).toList();
    }

    private List<Island> filled() {
        return firstLayer.stream().map(island -> new Island(island.outline(), List.of())).toList();
    }

    private List<Island> hull() {
        List<Coordinate> points = new ArrayList<>();
        for (Island island : firstLayer) {
            for (int i = 0; i < island.outline().length; i += 2) {
                points.add(new Coordinate(island.outline()[i], island.outline()[i + 1]));
            }
        }
        feet.forEach(foot -> points.add(new Coordinate(foot[0], foot[1])));
        Geometry hull = new ConvexHull(points.toArray(Coordinate[]::new), Rings.PLANE).getConvexHull();
        return hull instanceof Polygon ? Island.of(hull) : List.of();
    }

    /** A disc around each sharp corner that sticks out. */
    private List<Island> discs() {
        List<double[]> discs = new ArrayList<>();
        for (Island island : firstLayer) {
            double[] ring = RingSimplifier.simplify(island.outline(), SIMPLE_MM);
            for (int i = 0; i < ring.length; i += 2) {
                int before = (i + ring.length - 2) % ring.length, after = (i + 2) % ring.length;
                double ax = ring[i] - ring[before], ay = ring[i + 1] - ring[before + 1];
                double bx = ring[after] - ring[i], by = ring[after + 1] - ring[i + 1];
                if (Math.atan2(ax * by - ay * bx, ax * bx + ay * by) > SHARP) {
                    discs.add(disc(ring[i], ring[i + 1]));
                }
            }
        }
        return SolidArea.positive(discs).islands();
    }

    private static double[] disc(double x, double y) {
        double[] ring = new double[2 * EAR_SIDES];
        for (int i = 0; i < EAR_SIDES; i++) {
            // Turned by an odd angle, so that discs and straight outlines do not meet corner to corner.
            double angle = 2 * Math.PI * (i + 0.31) / EAR_SIDES;
            ring[2 * i] = x + Adhesion.EAR_MM * Math.cos(angle);
            ring[2 * i + 1] = y + Adhesion.EAR_MM * Math.sin(angle);
        }
        return ring;
    }

    private static void add(List<LoopOrder.Loop> loops, List<Island> areas) {
        Island.rings(areas).forEach(ring -> loops.add(LoopOrder.Loop.closed(ring, PathType.ADHESION)));
    }
}
