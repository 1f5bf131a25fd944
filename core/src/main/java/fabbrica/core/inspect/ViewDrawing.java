package fabbrica.core.inspect;

import fabbrica.core.mesh.model.Bounds;
import fabbrica.core.mesh.model.Mesh;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.HashMap;
import java.util.List;
import java.util.Map;

/**
 * The visible edges of a part seen along an axis, as a workshop drawing shows them: outlines, and creases where two
 * faces meet at more than {@value #CREASE_DEG}°.
 *
 * <p>Visibility is decided against a depth grid of {@value #GRID} cells on the longer side, so lines are exact in place
 * and to within a cell in where they begin and end. Linear in the triangles and the cells they cover.
 *
 * @param widthMm  extent to the right
 * @param heightMm extent upwards
 * @param strokes  line segments as x0, y0, x1, y1 in millimetres from the lower left corner
 */
public record ViewDrawing(double widthMm, double heightMm, List<double[]> strokes) {

    static final int GRID = 420;
    static final double CREASE_DEG = 25;

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
        return new Drawing(mesh, view).drawing();
    }

    private static final class Drawing {

        private static final int MOST_STROKES = 6000;

        private final Mesh mesh;
        private final View view;
        private final double[] origin;
        private final double width;
        private final double height;
        private final double cell;
        private final int columns;
        private final int rows;
        /** Nearest depth per cell; larger is nearer to the eye. */
        private final float[] depth;

        Drawing(Mesh mesh, View view) {
            this.mesh = mesh;
            this.view = view;
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
            List<double[]> strokes = new ArrayList<>();
            for (long edge : drawnEdges()) {
                addVisible((int) (edge >>> 32), (int) edge, strokes);
            }
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
            double az = near(a), bz = near(b), cz = near(c);
            int lastRow = (int) Math.min(rows - 1, Math.max(ay, Math.max(by, cy)));
            int lastColumn = (int) Math.min(columns - 1, Math.max(ax, Math.max(bx, cx)));
            int firstColumn = (int) Math.max(0, Math.min(ax, Math.min(bx, cx)));
            for (int row = (int) Math.max(0, Math.min(ay, Math.min(by, cy))); row <= lastRow; row++) {
                for (int column = firstColumn; column <= lastColumn; column++) {
                    double x = column + 0.5, y = row + 0.5;
                    double u = ((bx - x) * (cy - y) - (by - y) * (cx - x)) / area;
                    double v = ((cx - x) * (ay - y) - (cy - y) * (ax - x)) / area;
                    double w = 1 - u - v;
                    if (u >= 0 && v >= 0 && w >= 0) {
                        int at = row * columns + column;
                        depth[at] = Math.max(depth[at], (float) (u * az + v * bz + w * cz));
                    }
                }
            }
        }

        /** Edges that are open, or creases, or part a face towards the eye from one that looks away. */
        private List<Long> drawnEdges() {
            double crease = Math.cos(Math.toRadians(CREASE_DEG));
            Map<Long, Integer> waiting = new HashMap<>();
            List<Long> drawn = new ArrayList<>();
            double[] normal = new double[3], other = new double[3];
            for (int t = 0; t < mesh.triangleCount(); t++) {
                unitNormal(t, normal);
                for (int corner = 0; corner < 3; corner++) {
                    int from = mesh.corner(t, corner), to = mesh.corner(t, (corner + 1) % 3);
                    long edge = (long) Math.min(from, to) << 32 | Math.max(from, to);
                    Integer neighbour = waiting.remove(edge);
                    if (neighbour == null) {
                        waiting.put(edge, t);
                        continue;
                    }
                    unitNormal(neighbour, other);
                    double cosine = normal[0] * other[0] + normal[1] * other[1] + normal[2] * other[2];
                    if (cosine < crease || facesEye(normal) != facesEye(other)) {
                        drawn.add(edge);
                    }
                }
            }
            drawn.addAll(waiting.keySet());
            return drawn;
        }

        private void unitNormal(int triangle, double[] into) {
            mesh.normal(triangle, into);
            double length = Math.sqrt(into[0] * into[0] + into[1] * into[1] + into[2] * into[2]);
            for (int i = 0; i < 3 && length > 0; i++) {
                into[i] /= length;
            }
        }

        private boolean facesEye(double[] normal) {
            return switch (view) {
                case ABOVE -> normal[2];
                case FRONT -> -normal[1];
                case SIDE -> normal[0];
            } > 1e-6;
        }

        /** Cuts an edge into cell-long pieces and keeps the runs that nothing hides. */
        private void addVisible(int a, int b, List<double[]> strokes) {
            double x0 = right(a), y0 = up(a), x1 = right(b), y1 = up(b), z0 = near(a), z1 = near(b);
            int pieces = Math.max(1, (int) Math.ceil(Math.hypot(x1 - x0, y1 - y0) / cell));
            int runStart = -1;
            for (int i = 0; i <= pieces && strokes.size() < MOST_STROKES; i++) {
                double middle = (i + 0.5) / pieces;
                boolean visible = i < pieces && isVisible(x0 + middle * (x1 - x0), y0 + middle * (y1 - y0),
                        z0 + middle * (z1 - z0));
                if (visible && runStart < 0) {
                    runStart = i;
                } else if (!visible && runStart >= 0) {
                    double from = (double) runStart / pieces, to = (double) i / pieces;
                    strokes.add(new double[] {x0 + from * (x1 - x0), y0 + from * (y1 - y0), x0 + to * (x1 - x0),
                            y0 + to * (y1 - y0)});
                    runStart = -1;
                }
            }
        }

        /** An edge lies on the surface it bounds: it is hidden only where every cell around it is clearly nearer. */
        private boolean isVisible(double x, double y, double z) {
            int column = (int) (x / cell), row = (int) (y / cell);
            for (int r = row - 1; r <= row + 1; r++) {
                for (int c = column - 1; c <= column + 1; c++) {
                    boolean outside = r < 0 || c < 0 || r >= rows || c >= columns;
                    if (outside || depth[r * columns + c] <= z + 2 * cell) {
                        return true;
                    }
                }
            }
            return false;
        }
    }
}
