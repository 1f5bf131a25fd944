package fabbrica.web.counter;

import fabbrica.core.inspect.Inspection;
import fabbrica.core.mesh.io.ModelFormat;
import fabbrica.core.units.LengthUnit;
import fabbrica.web.platform.FileStore.Stored;

/**
 * A stored file and what came of reading it: either a problem, or a format and an inspection.
 *
 * @param unit the unit the file declares, else millimetres
 */
record InspectedFile(String name, Stored stored, ModelFormat format, LengthUnit unit, Inspection inspection,
                     String problem) {
}
