/**
 * The one shop that works out plates: cuts, toolpaths and motion, shared between all who ask. From parts and plates; for pages,
 * files, layers, trade and the shell.
 */
@NullMarked
package fabbrica.core.printing;

import org.jspecify.annotations.NullMarked;
