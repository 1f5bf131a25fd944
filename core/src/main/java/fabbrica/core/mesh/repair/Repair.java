package fabbrica.core.mesh.repair;

import fabbrica.core.mesh.model.HalfEdges;
import fabbrica.core.mesh.model.Mesh;
import fabbrica.core.mesh.model.Triangles;
import fabbrica.core.mesh.model.Welding;
import fabbrica.core.units.Spoken;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.HashSet;
import java.util.List;
import java.util.Set;

/**
 * Mends a mesh: joins near corners along cracks, drops triangles that are collapsed or there twice, makes the winding
 * one, fills holes, and drops solids that lie wholly inside another. No sound triangle moves; what cannot be mended safely is left as it is and said.
 *
 * @param changes what was done, a sentence each; empty when there was nothing to mend
 * @param left    what is still wrong, a sentence each
 * @param movedMm the farthest any corner moved
 */
public record Repair(Mesh mesh, List<String> changes, List<String> left, double movedMm) {

    /** Rounding in exported files stays well below this; a nozzle's line is far wider (common practice, no source). */
    public static final double WELD_MM = 0.01;

    public static Repair of(Mesh mesh) {
        List<String> changes = new ArrayList<>();
        Welding welding = Welding.of(mesh, WELD_MM);
        if (welding.joined() > 0) {
            changes.add("%s along cracks joined, moved by %s mm at most.".formatted(
                    Spoken.count(welding.joined(), "corner"), Spoken.number(welding.movedMm(), 4)));
        }
        Mesh kept = withoutCollapsedAndRepeated(welding.mesh(), changes);
        Winding winding = Winding.of(kept);
        if (winding.turned() > 0) {
            changes.add("%s turned over.".formatted(Spoken.count(winding.turned(), "triangle")));
        }
        HoleFilling filling = HoleFilling.of(winding.mesh());
        Mesh mended = filling.mesh();
        if (filling.filled() > 0) {
            changes.add("%s filled with %s, %s mm².".formatted(Spoken.count(filling.filled(), "hole"),
                    Spoken.count(filling.addedTriangles(), "triangle"), Spoken.number(filling.areaMm2(), 1)));
            // A body that was open could not be told inside from outside before.
            mended = Winding.of(mended).mesh();
        }
        Swallowed swallowed = Swallowed.of(mended);
        mended = swallowed.mesh();
        if (swallowed.dropped() > 0) {
            changes.add("%s dropped that lay wholly inside another.".formatted(
                    swallowed.dropped() == 1 ? "1 body" : Spoken.count(swallowed.dropped()) + " bodies"));
        }
        List<String> left = new ArrayList<>(filling.left());
        HalfEdges edges = new HalfEdges(mended);
        if (edges.crowdedEdges() > 0) {
            left.add("At %s more than two triangles meet; which belong together cannot be told."
                    .formatted(Spoken.count(edges.crowdedEdges(), "edge")));
        }
        if (winding.contradicted() > 0) {
            left.add("%s cannot be wound one way.".formatted(winding.contradicted() == 1 ? "1 body"
                    : Spoken.count(winding.contradicted()) + " bodies"));
        }
        return new Repair(mended, List.copyOf(changes), List.copyOf(left), welding.movedMm());
    }

    private static Mesh withoutCollapsedAndRepeated(Mesh mesh, List<String> changes) {
        Set<List<Integer>> seen = new HashSet<>();
        boolean crowded = new HalfEdges(mesh).duplicateTriangles() > 0;
        int[] dropped = new int[2];
        Triangles kept = Triangles.of(mesh).kept(t -> {
            if (HalfEdges.isCollapsed(mesh, t)) {
                dropped[0]++;
                return false;
            }
            if (crowded && !seen.add(sorted(mesh, t))) {
                dropped[1]++;
                return false;
            }
            return true;
        });
        if (dropped[0] > 0) {
            changes.add("%s without area dropped.".formatted(Spoken.count(dropped[0], "triangle")));
        }
        if (dropped[1] > 0) {
            changes.add("%s dropped that were there twice.".formatted(Spoken.count(dropped[1], "triangle")));
        }
        return dropped[0] + dropped[1] == 0 ? mesh : kept.mesh();
    }

    private static List<Integer> sorted(Mesh mesh, int t) {
        int[] corners = {mesh.corner(t, 0), mesh.corner(t, 1), mesh.corner(t, 2)};
        Arrays.sort(corners);
        return List.of(corners[0], corners[1], corners[2]);
    }
}
