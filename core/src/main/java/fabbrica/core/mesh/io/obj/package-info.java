/** OBJ: read and written. */
@NullMarked
package fabbrica.core.mesh.io.obj;

import org.jspecify.annotations.NullMarked;
