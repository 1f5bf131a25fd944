package fabbrica.core.toolpath;

import fabbrica.core.mesh.model.Mesh;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;

/**
 * Cuts a mesh at horizontal planes into closed contours, with the solid on their left hand.
 *
 * <p>A vertex on the plane counts as above it, so every triangle that is cut is entered through one edge and left
 * through another, and contours are chained by edge, not by position: no tolerance is needed where the mesh is sound.
 * Where it is open, the loose ends are joined to the nearest loose start.
 *
 * <p>Triangles are sorted into layers once (linear in the number of cuts); layers can then be cut independently.
 */
final class ContourCutter {

    private static final int MOST_LOOSE_ENDS = 2000;

    private final Mesh mesh;
    private final double lowest;
    private final LayerStack stack;
    /** Per vertex the first layer that is cut above it. */
    private final int[] above;
    private final int[] starts;
    private final int[] triangles;

    ContourCutter(Mesh mesh, double lowest, LayerStack stack) {
        this.mesh = mesh;
        this.lowest = lowest;
        this.stack = stack;
        above = new int[mesh.vertexCount()];
        Arrays.parallelSetAll(above, vertex -> stack.firstCutAbove(mesh.z(vertex) - lowest));
        starts = new int[stack.count() + 1];
        for (int t = 0; t < mesh.triangleCount(); t++) {
            for (int layer = firstCut(t), end = endOfCuts(t); layer < end; layer++) {
                starts[layer + 1]++;
            }
        }
        for (int layer = 0; layer < stack.count(); layer++) {
            starts[layer + 1] = Math.addExact(starts[layer + 1], starts[layer]);
        }
        triangles = new int[starts[stack.count()]];
        int[] filled = Arrays.copyOf(starts, stack.count());
        for (int t = 0; t < mesh.triangleCount(); t++) {
            for (int layer = firstCut(t), end = endOfCuts(t); layer < end; layer++) {
                triangles[filled[layer]++] = t;
            }
        }
    }

    private int firstCut(int triangle) {
        return Math.min(above[mesh.corner(triangle, 0)],
                Math.min(above[mesh.corner(triangle, 1)], above[mesh.corner(triangle, 2)]));
    }

    private int endOfCuts(int triangle) {
        return Math.max(above[mesh.corner(triangle, 0)],
                Math.max(above[mesh.corner(triangle, 1)], above[mesh.corner(triangle, 2)]));
    }

    /** The closed contours of one layer, each as x, y pairs without the first point repeated. */
    List<double[]> cut(int layer) {
        return new Chains(layer).contours();
    }

    private final class Chains {

        private static final int NONE = -1;

        private final int layer;
        private final double z;
        private final int count;
        /** Per segment: the edge it starts on and the edge it ends on, each as lower and higher vertex. */
        private final long[] startEdge;
        private final long[] endEdge;
        private final int[] table;
        private final boolean[] used;

        Chains(int layer) {
            this.layer = layer;
            z = lowest + stack.cutMm(layer);
            count = starts[layer + 1] - starts[layer];
            startEdge = new long[count];
            endEdge = new long[count];
            used = new boolean[count];
            table = new int[Integer.highestOneBit(Math.max(8, count)) * 4];
            Arrays.fill(table, NONE);
            for (int s = 0; s < count; s++) {
                addSegment(s, triangles[starts[layer] + s]);
            }
        }

        private void addSegment(int segment, int triangle) {
            for (int corner = 0; corner < 3; corner++) {
                int from = mesh.corner(triangle, corner), to = mesh.corner(triangle, (corner + 1) % 3);
                boolean fromAbove = isAbove(from), toAbove = isAbove(to);
                if (fromAbove != toAbove) {
                    long edge = (long) Math.min(from, to) << 32 | Math.max(from, to);
                    if (fromAbove) {
                        startEdge[segment] = edge;
                    } else {
                        endEdge[segment] = edge;
                    }
                }
            }
            int slot = hash(startEdge[segment]);
            while (table[slot] != NONE) {
                slot = (slot + 1) & (table.length - 1);
            }
            table[slot] = segment;
        }

        private boolean isAbove(int vertex) {
            return above[vertex] > layer;
        }

        List<double[]> contours() {
            List<double[]> closed = new ArrayList<>();
            List<double[]> loose = new ArrayList<>();
            int[] chain = new int[count];
            for (int seed = 0; seed < count; seed++) {
                if (used[seed]) {
                    continue;
                }
                int length = 0;
                int segment = seed;
                while (segment != NONE) {
                    used[segment] = true;
                    chain[length++] = segment;
                    segment = unusedStartingOn(endEdge[segment]);
                }
                boolean closes = endEdge[chain[length - 1]] == startEdge[seed];
                double[] points = new double[2 * (closes ? length : length + 1)];
                for (int i = 0; i < length; i++) {
                    crossing(startEdge[chain[i]], points, 2 * i);
                }
                if (!closes) {
                    crossing(endEdge[chain[length - 1]], points, 2 * length);
                }
                (closes ? closed : loose).add(points);
            }
            closed.addAll(joined(loose));
            return closed;
        }

        private int unusedStartingOn(long edge) {
            for (int slot = hash(edge); table[slot] != NONE; slot = (slot + 1) & (table.length - 1)) {
                if (startEdge[table[slot]] == edge && !used[table[slot]]) {
                    return table[slot];
                }
            }
            return NONE;
        }

        /** Interpolated from the lower to the higher vertex, so both triangles of an edge get the same point. */
        private void crossing(long edge, double[] into, int at) {
            int low = (int) (edge >>> 32), high = (int) edge;
            double part = (z - mesh.z(low)) / (mesh.z(high) - mesh.z(low));
            into[at] = mesh.x(low) + part * (mesh.x(high) - mesh.x(low));
            into[at + 1] = mesh.y(low) + part * (mesh.y(high) - mesh.y(low));
        }

        private int hash(long edge) {
            long bits = edge * 0x9E3779B97F4A7C15L;
            return (int) (bits ^ bits >>> 29) & (table.length - 1);
        }
    }

    /** Joins open chains end to nearest start until each closes; beyond {@link #MOST_LOOSE_ENDS} each by itself. */
    private static List<double[]> joined(List<double[]> loose) {
        if (loose.size() > MOST_LOOSE_ENDS) {
            return loose;
        }
        List<double[]> waiting = new ArrayList<>(loose);
        List<double[]> closed = new ArrayList<>();
        while (!waiting.isEmpty()) {
            double[] chain = waiting.removeLast();
            while (true) {
                double nearest = squaredGap(chain, chain);
                int best = -1;
                for (int i = 0; i < waiting.size(); i++) {
                    double gap = squaredGap(chain, waiting.get(i));
                    if (gap < nearest) {
                        nearest = gap;
                        best = i;
                    }
                }
                if (best < 0) {
                    break;
                }
                double[] next = waiting.remove(best);
                double[] both = Arrays.copyOf(chain, chain.length + next.length);
                System.arraycopy(next, 0, both, chain.length, next.length);
                chain = both;
            }
            closed.add(chain);
        }
        return closed;
    }

    /** From the end of one chain to the start of another. */
    private static double squaredGap(double[] from, double[] to) {
        double dx = to[0] - from[from.length - 2], dy = to[1] - from[from.length - 1];
        return dx * dx + dy * dy;
    }
}
