/** STL, binary and text: read and written. */
@NullMarked
package fabbrica.core.mesh.io.stl;

import org.jspecify.annotations.NullMarked;
