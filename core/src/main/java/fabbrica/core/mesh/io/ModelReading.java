package fabbrica.core.mesh.io;

import fabbrica.core.mesh.model.Mesh;
import fabbrica.core.units.LengthUnit;
import java.util.Optional;

/** What came of reading a model file: a mesh, or the reason why there is none. */
public sealed interface ModelReading {

    /** @param declaredUnit the unit the file itself names; empty for formats without units, such as STL */
    record ReadModel(Mesh mesh, ModelFormat format, Optional<LengthUnit> declaredUnit) implements ModelReading {
    }

    /** @param reason a sentence for the person who brought the file, with the byte or line where reading stopped */
    record UnreadableModel(String reason) implements ModelReading {
    }
}
