/** From a broken mesh to a sound one: holes filled, triangles turned the right way out, parts taken apart. For the Gauge. */
@NullMarked
package fabbrica.core.mesh.repair;

import org.jspecify.annotations.NullMarked;
