/** PLY, text and binary: read and written. */
@NullMarked
package fabbrica.core.mesh.io.ply;

import org.jspecify.annotations.NullMarked;
