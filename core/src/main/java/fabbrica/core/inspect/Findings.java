package fabbrica.core.inspect;

import static fabbrica.core.inspect.Severity.BLOCK;
import static fabbrica.core.inspect.Severity.CARE;
import static fabbrica.core.inspect.Severity.NOTE;

import fabbrica.core.inspect.Finding.Code;
import fabbrica.core.mesh.model.Bounds;
import fabbrica.core.units.Spoken;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;

/** Judges an {@link Inspection}: which of its numbers somebody has to know, worst first. */
public final class Findings {

    /** Below this a side is thinner than one layer or line of any nozzle in use. */
    private static final double SMALLEST_SIDE_MM = 0.2;

    private Findings() {
    }

    public static List<Finding> of(Inspection inspection) {
        List<Finding> findings = new ArrayList<>();
        Soundness soundness = inspection.soundness();
        if (soundness.openEdges() > 0) {
            findings.add(new Finding(Code.OPEN_EDGES, BLOCK, soundness.openEdges(),
                    "The surface is open along %s.".formatted(Spoken.count(soundness.openEdges(), "edge")),
                    "Where a triangle is missing there is no telling inside from outside: layers come out with gaps.",
                    "Close the holes in the drawing program or repair the mesh, then bring it again."));
        }
        if (soundness.nonManifoldEdges() > 0) {
            findings.add(new Finding(Code.NON_MANIFOLD, CARE, soundness.nonManifoldEdges(),
                    "More than two triangles meet at %s.".formatted(
                            Spoken.count(soundness.nonManifoldEdges(), "edge")),
                    "Surfaces that touch in a line have no thickness there and may print apart or fused.",
                    "Look at these places in the layers; overlap or separate the bodies by 0.1 mm or more."));
        }
        addSizeFindings(inspection, findings);
        if (soundness.duplicateTriangles() > 0) {
            findings.add(new Finding(Code.DUPLICATE, CARE, soundness.duplicateTriangles(),
                    "%s twice.".formatted(soundness.duplicateTriangles() == 1 ? "1 triangle is there"
                            : Spoken.count(soundness.duplicateTriangles()) + " triangles are there"),
                    "Doubled surfaces confuse which side is inside.",
                    "Remove doubled faces in the drawing program."));
        }
        if (inspection.measures().overhangAreaMm2() > 1) {
            findings.add(new Finding(Code.OVERHANG, CARE, 1,
                    "%s mm² face down steeper than 45° over air.".formatted(
                            Spoken.number(inspection.measures().overhangAreaMm2(), 0)),
                    "Plastic laid on air droops; short bridges manage alone.",
                    "Turn the part first. Supports are not in the estimate yet: allow for them."));
        }
        if (soundness.bodies() > 1) {
            findings.add(new Finding(Code.MULTIPLE_BODIES, NOTE, soundness.bodies(),
                    "The file holds %s separate bodies.".formatted(Spoken.count(soundness.bodies())),
                    "They may be several parts in one file, or one part whose pieces overlap.",
                    "Ask whether all of them belong together in one print."));
        }
        if (soundness.degenerateTriangles() > 0) {
            findings.add(new Finding(Code.DEGENERATE, NOTE, soundness.degenerateTriangles(),
                    "%s without area.".formatted(soundness.degenerateTriangles() == 1 ? "1 triangle is"
                            : Spoken.count(soundness.degenerateTriangles()) + " triangles are"),
                    "Harmless for printing; a sign of a rough export.",
                    "Nothing, unless other findings point to the same place."));
        }
        findings.sort(Comparator.comparing(Finding::severity));
        return List.copyOf(findings);
    }

    private static void addSizeFindings(Inspection inspection, List<Finding> findings) {
        Bounds size = inspection.bounds();
        if (size.smallestSide() < SMALLEST_SIDE_MM) {
            findings.add(new Finding(Code.TOO_SMALL, BLOCK, 1,
                    "The smallest side measures %s mm.".formatted(Spoken.number(size.smallestSide(), 3)),
                    "That is less than one layer or one line of plastic.",
                    "Check the unit and the scale."));
        }
        inspection.suspectedUnit().ifPresent(unit -> {
            double factor = unit.millimetres();
            findings.add(new Finding(Code.UNIT_SUSPECT, CARE, 1,
                    "At %s this is very small; it looks drawn in %s.".formatted(
                            Spoken.size(size.sizeX(), size.sizeY(), size.sizeZ()),
                            unit.plural()),
                    "STL carries no unit: the numbers are read as millimetres.",
                    "Ask the member. Read in %s it would measure %s.".formatted(unit.plural(), Spoken.size(
                            size.sizeX() * factor, size.sizeY() * factor, size.sizeZ() * factor))));
        });
    }
}
