/** AMF (ISO/ASTM 52915): read and written. */
@NullMarked
package fabbrica.core.mesh.io.amf;

import org.jspecify.annotations.NullMarked;
