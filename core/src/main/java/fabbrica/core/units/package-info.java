/** Units, money, ranges and how numbers are spoken; used by everything, uses nothing. */
@NullMarked
package fabbrica.core.units;

import org.jspecify.annotations.NullMarked;
