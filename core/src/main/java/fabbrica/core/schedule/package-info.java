/** When what waits for a printer will start and end. */
@NullMarked
package fabbrica.core.schedule;

import org.jspecify.annotations.NullMarked;
