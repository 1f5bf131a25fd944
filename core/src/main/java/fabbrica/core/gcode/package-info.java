/** Writes a toolpath for a printer and reads back what others wrote: from lines of G-code to moves, layers, findings. */
@NullMarked
package fabbrica.core.gcode;

import org.jspecify.annotations.NullMarked;
