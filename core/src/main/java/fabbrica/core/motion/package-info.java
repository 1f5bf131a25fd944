/** From a toolpath and a printer to seconds and plastic, move by move, as the machine speeds up and slows down. */
@NullMarked
package fabbrica.core.motion;

import org.jspecify.annotations.NullMarked;
