package fabbrica.core.inspect;

import fabbrica.core.mesh.model.HalfEdges;
import fabbrica.core.mesh.model.Mesh;
import java.util.Arrays;

/**
 * Patches of neighbouring triangles that cannot pass through one another, so that no pair within one need be looked at.
 *
 * <p>All triangles of a patch face to one side, as seen along its axis. How many of them lie over one another at a place is
 * then how often the patch's border, seen so, winds around that place: never more than once when the border keeps apart from
 * itself and has one loop that runs counter-clockwise; the others are holes. Criterion: Volino and Magnenat-Thalmann,
 * "Efficient self-collision detection on smoothly discretized surface animations using geometrical shape regularity" (1994).
 * What is too near to tell by double arithmetic counts as meeting.
 *
 * <p>Patches are grown over edges; linear in the triangles but for sorting the borders.
 */
final class Patches {

    /** Cosine of the widest angle between a triangle's normal and its patch's axis. */
    private static final double CONE = 0.2;
    /** Twice a triangle's area over the sum of its squared sides: below this its normal is left to rounding. */
    private static final double SLIVER = 1e-9;
    private static final int WORTHWHILE = 16;
    /** Where a border meets itself smaller patches are tried, and larger ones only once so many times their size went well. */
    private static final int LESS = 8;
    private static final int TRUST = 4;
    private static final int AROUND_SEED = 256;

    private final Mesh mesh;
    private final HalfEdges edges;
    private final int[] patches;
    private final int[] grown;
    private int count;
    /** The half-edges around what is grown. */
    private int[] border = new int[64];
    private int borderCount;
    private double axisX, axisY, axisZ;

    private Patches(Mesh mesh, HalfEdges edges) {
        this.mesh = mesh;
        this.edges = edges;
        patches = new int[mesh.triangleCount()];
        grown = new int[mesh.triangleCount()];
    }

    /** @return of each triangle the number of its patch, from 1; 0 for those in none */
    static int[] of(Mesh mesh, HalfEdges edges) {
        return new Patches(mesh, edges).numbered();
    }

    private int[] numbered() {
        boolean[] alone = new boolean[patches.length];
        int number = 1, most = patches.length, trusted = 0;
        for (int seed = 0; seed < patches.length; seed++) {
            while (patches[seed] == 0 && !alone[seed]) {
                grow(seed, number, most);
                if (count < WORTHWHILE) {
                    leave(seed, alone);
                } else if (new PatchBorder(mesh, edges, Arrays.copyOf(border, borderCount), axisX, axisY, axisZ).bounds()) {
                    number++;
                    trusted += count;
                    if (trusted >= TRUST * (long) most) {
                        most *= 2;
                        trusted = 0;
                    }
                } else if (count == WORTHWHILE) {
                    leave(seed, alone);
                } else {
                    undo();
                    most = Math.max(WORTHWHILE, count / LESS);
                    trusted = 0;
                }
            }
        }
        return patches;
    }

    private void leave(int seed, boolean[] alone) {
        undo();
        alone[seed] = true;
        for (int i = 0; i < count; i++) {
            alone[grown[i]] = true;
        }
    }

    private void undo() {
        for (int i = 0; i < count; i++) {
            patches[grown[i]] = 0;
        }
    }

    /** Twice: around the seed for an axis that suits its surroundings, then along that as far as it goes. Nothing around a sliver. */
    private void grow(int seed, int number, int most) {
        double[] normal = new double[3];
        mesh.normal(seed, normal);
        point(normal);
        if (!faces(seed)) {
            count = 0;
            return;
        }
        spread(seed, number, Math.min(most, AROUND_SEED));
        double[] sum = new double[3];
        for (int i = 0; i < count; i++) {
            mesh.normal(grown[i], normal);
            sum[0] += normal[0];
            sum[1] += normal[1];
            sum[2] += normal[2];
        }
        if (count == Math.min(most, AROUND_SEED)) {
            undo();
            point(sum);
            spread(seed, number, most);
        }
    }

    private void point(double[] along) {
        double length = Math.sqrt(along[0] * along[0] + along[1] * along[1] + along[2] * along[2]);
        axisX = along[0] / length;
        axisY = along[1] / length;
        axisZ = along[2] / length;
    }

    /** The seed, and what can be reached from it over triangles that face along the axis. */
    private void spread(int seed, int number, int most) {
        count = 0;
        borderCount = 0;
        grown[count++] = seed;
        patches[seed] = number;
        for (int at = 0; at < count; at++) {
            for (int h = 3 * grown[at]; h < 3 * grown[at] + 3; h++) {
                int twin = edges.twin(h), next = twin / 3;
                if (twin < 0 || !edges.agrees(h)) {
                    addBorder(h);
                } else if (patches[next] != number) {
                    if (patches[next] == 0 && count < most && faces(next)) {
                        patches[next] = number;
                        grown[count++] = next;
                    } else {
                        addBorder(h);
                    }
                }
            }
        }
    }

    private void addBorder(int halfEdge) {
        border = borderCount == border.length ? Arrays.copyOf(border, 2 * borderCount) : border;
        border[borderCount++] = halfEdge;
    }

    private boolean faces(int t) {
        int a = mesh.corner(t, 0), b = mesh.corner(t, 1), c = mesh.corner(t, 2);
        double ux = mesh.x(b) - mesh.x(a), uy = mesh.y(b) - mesh.y(a), uz = mesh.z(b) - mesh.z(a);
        double vx = mesh.x(c) - mesh.x(a), vy = mesh.y(c) - mesh.y(a), vz = mesh.z(c) - mesh.z(a);
        double nx = uy * vz - uz * vy, ny = uz * vx - ux * vz, nz = ux * vy - uy * vx;
        double along = nx * axisX + ny * axisY + nz * axisZ, squared = nx * nx + ny * ny + nz * nz;
        double sides = ux * ux + uy * uy + uz * uz + vx * vx + vy * vy + vz * vz;
        return along > 0 && along * along >= CONE * CONE * squared && squared > SLIVER * SLIVER * sides * sides;
    }
}
