package fabbrica.core.bed;

import fabbrica.core.inspect.Coarser;
import fabbrica.core.mesh.model.Bounds;
import fabbrica.core.mesh.model.Mesh;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.stream.IntStream;

/**
 * Lays parts and their copies out on as many plates as they need. Parts are nested by their outlines seen from above,
 * hollows and bays included, each turned about the vertical by whichever of {@value #TURNS} angles, or the one {@link BedFit} gives, lets it end nearest
 * the front, then nearest the left, of the bed (bottom-left heuristic: Baker, Coffman and Rivest 1980, on a grid:
 * Babu and Babu 1999). Larger parts go first.
 *
 * <p>The grid has {@value #CELLS} cells along the bed's longer side. A part covers every cell it touches, and once it
 * lies keeps the spacing around it free, rounded up to cells: parts are never nearer to each other than asked for, and
 * up to three cells farther. The heuristic gives a good layout, not the best one.
 *
 * @param sheets  each with at least one part
 * @param tooMany how many copies of each item fit on no plate at all
 */
public record Nesting(List<Sheet> sheets, List<Integer> tooMany) {

    static final int CELLS = 1000;
    static final int TURNS = 24;

    private static final double STRIP_PER_DEPTH = 0.05;
    private static final int FINE_TRIANGLES = 30_000;
    private static final int COARSE_CELLS = 120;
    private static final int MOST_SHEETS = 100;

    /**
     * Copies of one part.
     *
     * @param mesh      in millimetres, as it lies
     * @param allowance room around and under each copy (skirt, brim, raft)
     */
    public record Item(Mesh mesh, Allowance allowance, int copies) {
    }

    public record Sheet(List<Placement> placements) {
    }

    /**
     * Where one copy lies: the item's mesh turned about the origin, then moved, in bed coordinates.
     *
     * @param item        number of the item in the list
     * @param rotationDeg counter-clockwise, seen from above
     */
    public record Placement(int item, double rotationDeg, double dx, double dy) {
    }

    /** @param spacingMm least distance between any two parts, their skirts and brims included */
    public static Nesting of(List<Item> items, Bed bed, double spacingMm) {
        Nesting nesting = new Work(items, bed, spacingMm).nesting();
        if (nesting.sheets().size() <= 1 && nesting.left() == 0 || withWholeStrips(bed).equals(bed)) {
            return nesting;
        }
        Nesting behind = new Work(items, withWholeStrips(bed), spacingMm).nesting();
        return behind.left() < nesting.left()
                || behind.left() == nesting.left() && behind.sheets().size() < nesting.sheets().size() ? behind : nesting;
    }

    /** How many copies of one part fit on one bed. */
    public static int copiesThatFit(Mesh mesh, Allowance allowance, Bed bed, double spacingMm) {
        double area = Math.max(1, new Work(List.of(), bed, spacingMm).outlineAreaMm2(mesh));
        int most = (int) Math.min(2000, bed.widthMm() * bed.depthMm() / area + 1);
        List<Item> items = List.of(new Item(mesh, allowance, most));
        int beside = new Work(items, bed, spacingMm).filled();
        return withWholeStrips(bed).equals(bed) ? beside
                : Math.max(beside, new Work(items, withWholeStrips(bed), spacingMm).filled());
    }

    /** The bed without all the room beside low zones at its front: a part that is laid there breaks the rows behind it. */
    private static Bed withWholeStrips(Bed bed) {
        return new Bed(bed.widthMm(), bed.depthMm(), bed.heightMm(), bed.keepOut().stream()
                .map(zone -> zone.minY() <= 0 && zone.maxY() < STRIP_PER_DEPTH * bed.depthMm()
                        ? new Bed.Zone(0, zone.minY(), bed.widthMm(), zone.maxY()) : zone).toList());
    }

    private int left() {
        return tooMany.stream().mapToInt(Integer::intValue).sum();
    }

    private static final class Work {

        private final List<Item> items;
        private final Bed bed;
        private final double spacing;
        private final double cell;
        private final int columns;
        private final int rows;
        private final Map<List<Integer>, Turned> turned = new HashMap<>();
        private final Map<Integer, Allowance> beyond = new HashMap<>();

        Work(List<Item> items, Bed bed, double spacingMm) {
            this.items = items;
            this.bed = bed;
            this.spacing = spacingMm;
            cell = Math.max(bed.widthMm(), bed.depthMm()) / CELLS;
            columns = (int) Math.floor(bed.widthMm() / cell + 1e-9);
            rows = (int) Math.floor(bed.depthMm() / cell + 1e-9);
        }

        /**
         * A part at one angle.
         *
         * @param outline  what it covers with what is printed around it
         * @param guarded  the same with the spacing around it
         * @param guard    cells by which {@code guarded} reaches farther
         */
        private record Turned(Bitmap outline, Bitmap guarded, int guard, double degrees, double dx, double dy) {
        }

        /** The free and the taken cells of one plate, and how far each outline has been tried. */
        private final class Filling {

            private final Bitmap taken = new Bitmap(columns + 64, rows);
            private final List<Placement> placements = new ArrayList<>();
            private final int[][] tried = new int[items.size()][TURNS + 1];

            Filling() {
                for (Bed.Zone zone : bed.keepOut()) {
                    for (int y = cells(zone.minY()); y <= cells(zone.maxY()); y++) {
                        taken.setRun(y, cells(zone.minX()), cells(zone.maxX()) + 1);
                    }
                }
            }

            boolean place(int item) {
                int bestEnd = Integer.MAX_VALUE, bestAt = 0;
                Turned best = null;
                for (int turn = 0; turn <= TURNS; turn++) {
                    Turned part = turned(item, turn);
                    int at = firstPlace(tried[item], turn, part.outline, bestEnd);
                    if (at >= 0 && at / columns + part.outline.height() < bestEnd) {
                        bestEnd = at / columns + part.outline.height();
                        bestAt = at;
                        best = part;
                    }
                }
                if (best == null) {
                    return false;
                }
                int x = bestAt % columns, y = bestAt / columns;
                taken.add(best.guarded, x - best.guard, y - best.guard);
                placements.add(new Placement(item, best.degrees, x * cell + best.dx, y * cell + best.dy));
                return true;
            }

            /** Row after row; places that were taken once stay taken, so the search goes on where it stopped. */
            private int firstPlace(int[] from, int turn, Bitmap outline, int before) {
                int lastColumn = columns - outline.width(), lastRow = rows - outline.height();
                for (int y = from[turn] / columns, x = from[turn] % columns; y <= lastRow; y++, x = 0) {
                    if (y + outline.height() >= before) {
                        return -1;
                    }
                    x = taken.firstFree(outline, x, y, lastColumn);
                    if (x <= lastColumn) {
                        from[turn] = y * columns + x;
                        return from[turn];
                    }
                    from[turn] = (y + 1) * columns;
                }
                return -1;
            }

            private int cells(double millimetres) {
                return (int) Math.floor(millimetres / cell);
            }
        }

        Nesting nesting() {
            int[] order = IntStream.range(0, items.size()).boxed()
                    .sorted(Comparator.comparingDouble((Integer i) -> -outlineAreaMm2(items.get(i).mesh())))
                    .mapToInt(Integer::intValue).toArray();
            List<Filling> sheets = new ArrayList<>();
            int[] left = new int[items.size()];
            for (int item : order) {
                for (int copy = 0; copy < items.get(item).copies(); copy++) {
                    if (!fits(item) || !placedOnAny(sheets, item)) {
                        left[item]++;
                    }
                }
            }
            return new Nesting(sheets.stream().map(sheet -> new Sheet(List.copyOf(sheet.placements))).toList(),
                    IntStream.of(left).boxed().toList());
        }

        private boolean placedOnAny(List<Filling> sheets, int item) {
            for (Filling sheet : sheets) {
                if (sheet.place(item)) {
                    return true;
                }
            }
            Filling fresh = new Filling();
            if (sheets.size() == MOST_SHEETS || !fresh.place(item)) {
                return false;
            }
            sheets.add(fresh);
            return true;
        }

        int filled() {
            Filling sheet = new Filling();
            int count = 0;
            while (fits(0) && count < items.getFirst().copies() && sheet.place(0)) {
                count++;
            }
            return count;
        }

        private boolean fits(int item) {
            Item part = items.get(item);
            return part.mesh().bounds().sizeZ() + part.allowance().heightMm() <= bed.heightMm() + 1e-6;
        }

        double outlineAreaMm2(Mesh mesh) {
            double[] hull = Footprint.of(mesh).hull();
            double twice = 0;
            for (int i = 0, j = hull.length - 2; i < hull.length; j = i, i += 2) {
                twice += hull[j] * hull[i + 1] - hull[i] * hull[j + 1];
            }
            return twice / 2;
        }

        private Turned turned(int item, int turn) {
            return turned.computeIfAbsent(List.of(item, turn), key -> {
                Item part = items.get(item);
                double degrees = turn < TURNS ? 360.0 * turn / TURNS : roomiest(part);
                boolean fine = part.mesh().triangleCount() > FINE_TRIANGLES;
                Mesh mesh = (fine ? Coarser.of(part.mesh(), COARSE_CELLS) : part.mesh()).turned(degrees);
                Bounds bounds = mesh.bounds();
                double grown = beyond(item).marginMm() + (fine ? Coarser.movedAtMost(part.mesh(), COARSE_CELLS) : 0);
                int margin = (int) Math.ceil(grown / cell), guard = (int) Math.ceil(spacing / cell - 1e-9);
                Bitmap outline = Bitmap.ofMesh(mesh, bounds, cell).grown(margin);
                return new Turned(outline, outline.grown(guard), guard, degrees, margin * cell - bounds.minX(),
                        margin * cell - bounds.minY());
            });
        }

        private Allowance beyond(int item) {
            return beyond.computeIfAbsent(item, key -> items.get(key).allowance().beyond(Footprint.of(items.get(key).mesh())));
        }

        /** The angle at which the part alone fits best. */
        private double roomiest(Item part) {
            return BedFit.of(Footprint.of(part.mesh()), bed, part.allowance()).rotationDeg();
        }
    }
}
