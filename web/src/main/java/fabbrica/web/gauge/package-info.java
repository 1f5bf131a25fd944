/**
 * Shows what was measured on a ticket's part, and changes it: size, pose, repair, bodies taken apart. From meshes and
 * inspections, for whoever decides whether it can be printed.
 */
@NullMarked
package fabbrica.web.gauge;

import org.jspecify.annotations.NullMarked;
