package fabbrica.core.inspect;

import fabbrica.core.mesh.model.Bounds;
import fabbrica.core.mesh.model.HalfEdges;
import fabbrica.core.mesh.model.Mesh;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.BitSet;
import java.util.List;
import java.util.stream.IntStream;

/**
 * The visible edges of a part seen along an axis, as a workshop drawing shows them: outlines, and creases where two
 * faces meet at more than {@value #CREASE_DEG}°.
 *
 * <p>Visibility is decided against a depth grid of {@value #GRID} cells on the longer side, so lines are to within a cell
 * in where they begin and end. Lines that go on in one another are drawn as few strokes as lie within half a cell of them
 * (Douglas and Peucker, 1973). Of more than {@value #MOST_STROKES} strokes the rim is drawn, and the longest lines all over
 * what is within. Linear in the triangles and the cells they cover.
 *
 * @param widthMm  extent to the right
 * @param heightMm extent upwards
 * @param strokes  line segments as x0, y0, x1, y1 in millimetres from the lower left corner; the first show most
 */
public record ViewDrawing(double widthMm, double heightMm, List<double[]> strokes) {

    static final int GRID = 420;
    static final double CREASE_DEG = 25;
    static final int MOST_STROKES = 2500;
    private static final int TILES = 20;
    /** As they are visible, before they are drawn as few. */
    private static final int MOST_PIECES = 100_000;

    /** From which side the part is looked at. */
    public enum View {
        /** x to the right, y up. */
        ABOVE,
        /** x to the right, z up. */
        FRONT,
        /** From the right: y to the right, z up. */
        SIDE
    }

    public static ViewDrawing of(Mesh mesh, View view) {
        return of(mesh, List.of(view)).getFirst();
    }

    /** From several sides at once: most of what is drawn is the same from all of them. */
    public static List<ViewDrawing> of(Mesh mesh, List<View> views) {
        Creases creases = new Creases(mesh);
        return views.parallelStream().map(view -> new Drawing(mesh, view, creases).drawing()).toList();
    }

    /** What is drawn of a part from wherever it is looked at. */
    private static final class Creases {

        private final HalfEdges edges;
        /** Of unit length, three a triangle; zero where it has no area. */
        private final double[] normals;
        /** By half-edge, the second of an edge alone: it is open, more than two faces meet there, or they meet at a sharp angle. */
        private final BitSet drawn = new BitSet();

        Creases(Mesh mesh) {
            edges = new HalfEdges(mesh);
            normals = new double[3 * mesh.triangleCount()];
            IntStream.range(0, mesh.triangleCount()).parallel().forEach(t -> {
                double[] normal = new double[3];
                mesh.normal(t, normal);
                double length = Math.sqrt(normal[0] * normal[0] + normal[1] * normal[1] + normal[2] * normal[2]);
                for (int i = 0; i < 3 && length > 0; i++) {
                    normals[3 * t + i] = normal[i] / length;
                }
            });
            double crease = Math.cos(Math.toRadians(CREASE_DEG));
            for (int edge = 0; edge < normals.length; edge++) {
                int twin = edges.twin(edge);
                if (twin == HalfEdges.OPEN || twin == HalfEdges.CROWDED || twin >= 0 && twin < edge && cosine(edge / 3, twin / 3) < crease) {
                    drawn.set(edge);
                }
            }
        }

        private double cosine(int a, int b) {
            return normals[3 * a] * normals[3 * b] + normals[3 * a + 1] * normals[3 * b + 1] + normals[3 * a + 2] * normals[3 * b + 2];
        }
    }

    private static final class Drawing {

        private final Mesh mesh;
        private final View view;
        private final Creases creases;
        private final double[] origin;
        private final double width;
        private final double height;
        private final double cell;
        private final int columns;
        private final int rows;
        /** Nearest depth per cell; larger is nearer to the eye. */
        private final float[] depth;
        /** The least depth of a cell and the eight around it; of cells at the rim what is beyond them, infinitely far. */
        private float[] farthest = {};

        Drawing(Mesh mesh, View view, Creases creases) {
            this.mesh = mesh;
            this.view = view;
            this.creases = creases;
            Bounds b = mesh.bounds();
            origin = new double[] {right(b.minX(), b.minY()), up(b.minY(), b.minZ())};
            width = right(b.sizeX(), b.sizeY());
            height = up(b.sizeY(), b.sizeZ());
            cell = Math.max(1e-9, Math.max(width, height) / GRID);
            columns = (int) (width / cell) + 2;
            rows = (int) (height / cell) + 2;
            depth = new float[columns * rows];
        }

        ViewDrawing drawing() {
            Arrays.fill(depth, Float.NEGATIVE_INFINITY);
            for (int t = 0; t < mesh.triangleCount(); t++) {
                shade(mesh.corner(t, 0), mesh.corner(t, 1), mesh.corner(t, 2));
            }
            farthest = leastOfThree(leastOfThree(depth, 1), columns);
            Pieces rim = new Pieces(mesh.vertexCount(), MOST_PIECES), within = new Pieces(mesh.vertexCount(), MOST_PIECES);
            for (int edge = 0; edge < creases.normals.length; edge++) {
                if (isDrawn(edge)) {
                    addVisible(creases.edges.from(edge), creases.edges.to(edge), rim, within);
                }
            }
            List<double[]> strokes = new ArrayList<>(rim.strokes(cell / 2, MOST_STROKES, cell * GRID / TILES));
            strokes.addAll(within.strokes(cell / 2, MOST_STROKES - strokes.size(), cell * GRID / TILES));
            return new ViewDrawing(width, height, strokes);
        }

        private double right(double x, double y) {
            return view == View.SIDE ? y : x;
        }

        private double up(double y, double z) {
            return view == View.ABOVE ? y : z;
        }

        private double right(int vertex) {
            return right(mesh.x(vertex), mesh.y(vertex)) - origin[0];
        }

        private double up(int vertex) {
            return up(mesh.y(vertex), mesh.z(vertex)) - origin[1];
        }

        private double near(int vertex) {
            return switch (view) {
                case ABOVE -> mesh.z(vertex);
                case FRONT -> -mesh.y(vertex);
                case SIDE -> mesh.x(vertex);
            };
        }

        private void shade(int a, int b, int c) {
            double ax = right(a) / cell, ay = up(a) / cell, bx = right(b) / cell, by = up(b) / cell;
            double cx = right(c) / cell, cy = up(c) / cell;
            double area = (bx - ax) * (cy - ay) - (by - ay) * (cx - ax);
            if (area == 0) {
                return;
            }
            // Shares of the corners at a point, which go on evenly from cell to cell.
            double uRight = (by - cy) / area, uUp = (cx - bx) / area, uZero = (bx * cy - by * cx) / area;
            double vRight = (cy - ay) / area, vUp = (ax - cx) / area, vZero = (cx * ay - cy * ax) / area;
            double az = near(a), bz = near(b), cz = near(c);
            int lastRow = (int) Math.min(rows - 1, Math.max(ay, Math.max(by, cy)));
            int lastColumn = (int) Math.min(columns - 1, Math.max(ax, Math.max(bx, cx)));
            int firstColumn = (int) Math.max(0, Math.min(ax, Math.min(bx, cx)));
            for (int row = (int) Math.max(0, Math.min(ay, Math.min(by, cy))); row <= lastRow; row++) {
                double uRow = uZero + (row + 0.5) * uUp, vRow = vZero + (row + 0.5) * vUp;
                for (int column = firstColumn; column <= lastColumn; column++) {
                    double u = uRow + (column + 0.5) * uRight, v = vRow + (column + 0.5) * vRight, w = 1 - u - v;
                    if (u >= 0 && v >= 0 && w >= 0) {
                        int at = row * columns + column;
                        depth[at] = Math.max(depth[at], (float) (u * az + v * bz + w * cz));
                    }
                }
            }
        }

        /** Edges that are drawn from everywhere, or part a face towards the eye from one that looks away. */
        private boolean isDrawn(int edge) {
            int twin = creases.edges.twin(edge);
            return creases.drawn.get(edge) || twin >= 0 && twin < edge && facesEye(edge / 3) != facesEye(twin / 3);
        }

        private boolean facesEye(int triangle) {
            return switch (view) {
                case ABOVE -> creases.normals[3 * triangle + 2];
                case FRONT -> -creases.normals[3 * triangle + 1];
                case SIDE -> creases.normals[3 * triangle];
            } > 1e-6;
        }

        /** Cuts an edge into cell-long pieces and keeps the runs that nothing hides, by whether there is nothing beside them. */
        private void addVisible(int a, int b, Pieces rim, Pieces within) {
            double x0 = right(a), y0 = up(a), x1 = right(b), y1 = up(b), z0 = near(a), z1 = near(b);
            int pieces = Math.max(1, (int) Math.ceil(Math.hypot(x1 - x0, y1 - y0) / cell));
            int runStart = -1;
            for (int i = 0; i <= pieces; i++) {
                double middle = (i + 0.5) / pieces;
                boolean visible = i < pieces && isVisible(x0 + middle * (x1 - x0), y0 + middle * (y1 - y0),
                        z0 + middle * (z1 - z0));
                if (visible && runStart < 0) {
                    runStart = i;
                } else if (!visible && runStart >= 0) {
                    double from = (double) runStart / pieces, to = (double) i / pieces, half = (from + to) / 2;
                    boolean beside = farthest(x0 + half * (x1 - x0), y0 + half * (y1 - y0)) == Float.NEGATIVE_INFINITY;
                    (beside ? rim : within).add(runStart == 0 ? a : Pieces.CUT, x0 + from * (x1 - x0), y0 + from * (y1 - y0),
                            i == pieces ? b : Pieces.CUT, x0 + to * (x1 - x0), y0 + to * (y1 - y0));
                    runStart = -1;
                }
            }
        }

        private float[] leastOfThree(float[] cells, int step) {
            float[] least = new float[cells.length];
            Arrays.fill(least, Float.NEGATIVE_INFINITY);
            for (int at = step; at < cells.length - step; at++) {
                least[at] = Math.min(cells[at], Math.min(cells[at - step], cells[at + step]));
            }
            return least;
        }

        /** An edge lies on the surface it bounds: it is hidden only where every cell around it is clearly nearer. */
        private boolean isVisible(double x, double y, double z) {
            return farthest(x, y) <= z + 2 * cell;
        }

        private float farthest(double x, double y) {
            int column = (int) (x / cell);
            return column == 0 || column == columns - 1 ? Float.NEGATIVE_INFINITY : farthest[(int) (y / cell) * columns + column];
        }
    }
}
