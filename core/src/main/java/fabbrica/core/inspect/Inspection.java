package fabbrica.core.inspect;

import fabbrica.core.mesh.model.Bounds;
import fabbrica.core.mesh.model.Mesh;
import fabbrica.core.units.LengthUnit;
import java.util.Optional;

/**
 * What was measured on a part. Lengths in millimetres under the assumption that one unit of the mesh is one
 * millimetre; {@link #scaled} gives the same part in another unit or size without measuring again.
 */
public record Inspection(int triangles, int vertices, Bounds bounds, Soundness soundness, Measures measures) {

    public static Inspection of(Mesh mesh) {
        Bounds bounds = mesh.bounds();
        return new Inspection(mesh.triangleCount(), mesh.vertexCount(), bounds, Soundness.of(mesh),
                Measures.of(mesh, bounds));
    }

    public Inspection scaled(double factor) {
        Bounds scaled = new Bounds(bounds.minX() * factor, bounds.minY() * factor, bounds.minZ() * factor,
                bounds.maxX() * factor, bounds.maxY() * factor, bounds.maxZ() * factor);
        return new Inspection(triangles, vertices, scaled, soundness, measures.scaled(factor));
    }

    public Optional<LengthUnit> suspectedUnit() {
        return UnitGuess.suspected(bounds);
    }
}
