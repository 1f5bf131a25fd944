/** Other ways of printing the same, side by side, with what each gains and loses. From a plan; for the trade table. */
@NullMarked
package fabbrica.core.trade;

import org.jspecify.annotations.NullMarked;
