package fabbrica.web.counter;

import fabbrica.core.mesh.io.ModelFormat;
import fabbrica.core.units.LengthUnit;
import fabbrica.web.platform.storage.FileStore.Stored;
import org.jspecify.annotations.Nullable;

/**
 * A stored file and what came of reading it: either a problem, or a format.
 *
 * @param unit the unit the file declares, else millimetres
 */
record ReadFile(String name, Stored stored, @Nullable ModelFormat format, LengthUnit unit, @Nullable String problem) {
}
