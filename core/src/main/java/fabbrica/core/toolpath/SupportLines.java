package fabbrica.core.toolpath;

import fabbrica.core.recipe.Recipe;
import fabbrica.core.recipe.Supports;
import fabbrica.core.recipe.Zone;
import fabbrica.core.toolpath.HatchLines.Ruling;
import fabbrica.core.units.Progress;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;

/**
 * Supports under overhangs, as lines in one direction on every layer, closed on top by faces across them.
 *
 * <p>An overhang is what lies beyond the layer below, where it sticks out by more than the angle allows, and is no short
 * bridge. From
 * each a column goes down, line by line as stretches that are joined, intersected and subtracted: until it meets the
 * part or the bed. Each line stands for the overhang to either side of it, up to half the distance to the next.
 */
final class SupportLines {

    /** Overhang is looked for on this many lines for each line of support. */
    private static final int FINER = 4;
    private static final double FACE_DENSITY = 0.8;
    /** Free beside the part, in line widths from the middle of the line. */
    private static final double BESIDE_PER_WIDTH = 1.5;
    /** Supports narrower than this fall over, in line widths. */
    private static final double SHORTEST_PER_WIDTH = 2;
    /** A bridge up to this long holds without support (common practice, no source). */
    static final double LONGEST_BRIDGE_MM = 10;

    private final HatchLines[] body;
    private final HatchLines[] faces;

    private SupportLines(HatchLines[] body, HatchLines[] faces) {
        this.body = body;
        this.faces = faces;
    }

    HatchLines body(int layer) {
        return body[layer];
    }

    HatchLines faces(int layer) {
        return faces[layer];
    }

    /** @param bridges of each layer */
    static SupportLines of(Slices slices, Recipe recipe, List<List<Bridge>> bridges, Progress progress) {
        return new Work(slices, recipe, bridges, progress).lines();
    }

    private static final class Work {

        private final Slices slices;
        private final Recipe recipe;
        private final Supports supports;
        private final List<List<Bridge>> bridges;
        private final Progress progress;
        private final int count;
        private final Ruling fine;
        private final Ruling coarse;
        private final Ruling across;
        private final HatchLines[] overhang;
        private final HatchLines[] overhangAcross;
        private final HatchLines[] taken;
        private final HatchLines[] takenAcross;

        Work(Slices slices, Recipe recipe, List<List<Bridge>> bridges, Progress progress) {
            this.slices = slices;
            this.recipe = recipe;
            this.supports = recipe.supports();
            this.bridges = bridges;
            this.progress = progress;
            count = slices.count();
            double spacing = recipe.lineSpacingMm(recipe.layerHeightMm());
            fine = Ruling.of(0, spacing / supports.density() / FINER);
            coarse = Ruling.of(0, spacing / supports.density());
            across = Ruling.of(90, spacing / FACE_DENSITY);
            overhang = new HatchLines[count];
            overhangAcross = new HatchLines[count];
            taken = new HatchLines[count];
            takenAcross = new HatchLines[count];
        }

        SupportLines lines() {
            Layers.each(count, progress, this::look);
            int gap = supports.gapMm() == 0 ? 0 : (int) Math.max(1, Math.round(supports.gapMm() / recipe.layerHeightMm()));
            HatchLines[] body = new HatchLines[count], faces = new HatchLines[count];
            HatchLines column = HatchLines.none(coarse);
            double shortest = SHORTEST_PER_WIDTH * recipe.lineWidthMm();
            for (int layer = count - 1; layer >= 0; layer--) {
                int under = layer + 1 + gap + supports.faceLayers();
                column = under < count ? column.or(overhang[under]) : column;
                column = without(column, taken, layer, gap);
                body[layer] = column.atLeast(shortest);
                HatchLines face = HatchLines.none(across);
                for (int above = layer + 1 + gap; above < Math.min(count, under); above++) {
                    face = face.or(overhangAcross[above]);
                }
                faces[layer] = without(face, takenAcross, layer, gap).atLeast(shortest);
            }
            if (supports.where() == Supports.Where.BED) {
                keepWhatStandsOnTheBed(body, taken, coarse);
                keepWhatStandsOnTheBed(faces, takenAcross, across);
            }
            return new SupportLines(body, faces);
        }

        /** What is left beside the part and above whatever ends less than the gap below. */
        private static HatchLines without(HatchLines lines, HatchLines[] taken, int layer, int gap) {
            HatchLines left = lines;
            for (int below = layer; below >= Math.max(0, layer - gap) && !left.isEmpty(); below--) {
                left = left.minus(taken[below]);
            }
            return left;
        }

        private static void keepWhatStandsOnTheBed(HatchLines[] lines, HatchLines[] taken, Ruling ruling) {
            HatchLines shadow = HatchLines.none(ruling);
            for (int layer = 0; layer < lines.length; layer++) {
                shadow = shadow.or(taken[layer]);
                lines[layer] = lines[layer].minus(shadow);
            }
        }

        private void look(int layer) {
            double beside = BESIDE_PER_WIDTH * recipe.lineWidthMm();
            List<double[]> grown = Island.rings(Offset.outwards(slices.areas(layer), beside));
            taken[layer] = HatchLines.of(grown, coarse);
            takenAcross[layer] = HatchLines.of(grown, across);
            double height = slices.stack().cutMm(layer);
            List<Zone> zones = recipe.lines().zones().stream().filter(zone -> zone.reaches(height)).toList();
            List<double[]> outline = Island.rings(slices.areas(layer));
            boolean same = layer == 0 || slices.sameAs(layer) == slices.sameAs(layer - 1);
            List<double[]> held = same ? outline : Island.rings(Offset.outwards(slices.areas(layer - 1),
                    Math.max(0.01, slices.heightMm(layer) * Math.tan(Math.toRadians(supports.angleDeg())))));
            List<double[]> below = layer == 0 ? outline : Island.rings(slices.areas(layer - 1));
            overhang[layer] = overhang(outline, held, below, layer, zones, fine).coarser(FINER);
            overhangAcross[layer] = overhang(outline, held, below, layer, zones, across);
        }

        private HatchLines overhang(List<double[]> outline, List<double[]> held, List<double[]> below, int layer,
                                    List<Zone> zones, Ruling ruling) {
            HatchLines whole = HatchLines.of(outline, ruling);
            HatchLines out = whole.minus(HatchLines.of(below, ruling));
            HatchLines overhang = supports.any() ? out.touching(whole.minus(HatchLines.of(held, ruling)))
                    : HatchLines.none(ruling);
            for (Bridge bridge : bridges.get(layer)) {
                if (bridge.spanMm() <= LONGEST_BRIDGE_MM) {
                    overhang = overhang.minus(HatchLines.of(Island.rings(Offset.outwards(List.of(bridge.area()),
                            (BESIDE_PER_WIDTH + recipe.walls()) * recipe.lineWidthMm())), ruling));
                }
            }
            for (Zone zone : zones) {
                HatchLines box = HatchLines.of(List.of(zone.ring()), ruling);
                overhang = switch (zone.support()) {
                    case BLOCKED -> overhang.minus(box);
                    case ENFORCED -> overhang.or(out.and(box));
                    case AS_RECIPE -> overhang;
                };
            }
            return overhang;
        }
    }

    /** Some point of every stretch on the lowest layer, for whatever is laid around all of it. */
    List<double[]> feet() {
        List<double[]> feet = new ArrayList<>();
        for (HatchLines lines : Arrays.asList(body[0], faces[0])) {
            for (int line = 0; line < lines.lineCount(); line++) {
                for (int stretch = 0; stretch < lines.stretchCount(line); stretch++) {
                    feet.add(new double[] {lines.x(line, lines.from(line, stretch)), lines.y(line, lines.from(line, stretch))});
                    feet.add(new double[] {lines.x(line, lines.to(line, stretch)), lines.y(line, lines.to(line, stretch))});
                }
            }
        }
        return feet;
    }
}
