/**
 * From bytes to a mesh: the registry of formats, archives, units and transforms, and the guards against hostile files. For
 * the counter and the shell.
 */
@NullMarked
package fabbrica.core.mesh.io;

import org.jspecify.annotations.NullMarked;
