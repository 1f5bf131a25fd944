/** What can happen to a print: its defects with their usual causes, and promised against real. */
@NullMarked
package fabbrica.core.run;

import org.jspecify.annotations.NullMarked;
