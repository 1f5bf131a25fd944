/**
 * Where a part may lie: footprints, fit, keep-out zones, nesting of many parts, ways around what stands there. From meshes and
 * beds; for plans and plates.
 */
@NullMarked
package fabbrica.core.bed;

import org.jspecify.annotations.NullMarked;
