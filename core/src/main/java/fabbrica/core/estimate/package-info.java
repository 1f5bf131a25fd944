/** Seconds by phase, plastic and money of a print, raw; from toolpath and motion, for promises. */
@NullMarked
package fabbrica.core.estimate;

import org.jspecify.annotations.NullMarked;
