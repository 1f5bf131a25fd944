package fabbrica.web.counter;

import fabbrica.core.mesh.io.ModelFormat;
import fabbrica.core.units.LengthUnit;
import fabbrica.web.platform.storage.FileStore.Stored;

/**
 * A stored file and what came of reading it: either a problem, or a format.
 *
 * @param unit the unit the file declares, else millimetres
 */
record ReadFile(String name, Stored stored, ModelFormat format, LengthUnit unit, String problem) {
}
