/** 3MF (ISO/IEC 25422): read and written. */
@NullMarked
package fabbrica.core.mesh.io.threemf;

import org.jspecify.annotations.NullMarked;
