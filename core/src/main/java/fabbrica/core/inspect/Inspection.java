package fabbrica.core.inspect;

import fabbrica.core.mesh.model.Bounds;
import fabbrica.core.mesh.model.HalfEdges;
import fabbrica.core.mesh.model.HilbertOrder;
import fabbrica.core.mesh.model.Mesh;
import fabbrica.core.mesh.model.TriangleTree;
import fabbrica.core.units.LengthUnit;
import fabbrica.core.units.Progress;
import java.util.List;
import java.util.Optional;
import java.util.concurrent.CancellationException;
import java.util.concurrent.CompletableFuture;
import java.util.concurrent.CompletionException;

/**
 * What was measured on a part, in millimetres, as it lies. Of what takes long each processor does a share, or something else beside it.
 *
 * @param islands where layers begin in mid-air, lowest first
 * @param columns for overhangs steeper than {@link Overhang#STEEP_DEG}
 */
public record Inspection(int triangles, int vertices, Bounds bounds, Soundness soundness, Measures measures,
                         Thickness thickness, Overhang overhang, List<Place> islands, Columns columns, Stand stand) {

    private static final int COLUMN_CELLS = 256;

    /** @param part in millimetres, as it lies on the bed, at whatever height */
    public static Inspection of(Mesh part) {
        return of(part, Progress.IGNORED);
    }

    /** @throws CancellationException when nobody waits for it any more */
    public static Inspection of(Mesh part, Progress progress) {
        Mesh mesh = HilbertOrder.sorted(part);
        Bounds bounds = mesh.bounds();
        HalfEdges edges = new HalfEdges(mesh);
        TriangleTree tree = TriangleTree.ofSorted(mesh, progress);
        progress.check();
        CompletableFuture<Columns> columns = CompletableFuture.supplyAsync(() ->
                Columns.of(mesh, Overhang.STEEP_DEG, COLUMN_CELLS));
        CompletableFuture<List<Place>> islands = CompletableFuture.supplyAsync(() -> Islands.of(mesh, edges, tree));
        Overhang overhang = Overhang.of(mesh, edges, tree);
        progress.check();
        Soundness soundness = Soundness.of(mesh, edges, tree);
        progress.check();
        Measures measures = Measures.of(mesh, bounds, soundness, joined(columns));
        Stand stand = Stand.of(mesh, measures.bedContactAreaMm2());
        return new Inspection(mesh.triangleCount(), mesh.vertexCount(), bounds, soundness, measures, Thickness.of(mesh, edges, tree),
                overhang, joined(islands), columns.join(), stand);
    }

    /** What was worked out beside; what was given up there is given up here. */
    private static <T> T joined(CompletableFuture<T> beside) {
        try {
            return beside.join();
        } catch (CompletionException e) {
            if (e.getCause() instanceof CancellationException stopped) {
                throw stopped;
            }
            throw e;
        }
    }

    public Optional<LengthUnit> suspectedUnit() {
        return UnitGuess.suspected(bounds);
    }

    /** Units that would make a doubtfully small part a usual one. */
    public List<LengthUnit> unitCandidates() {
        return UnitGuess.candidates(bounds);
    }
}
