/**
 * Decides: whether a part can be printed, what speaks against a printer or a spool, what should hold and support it. The only
 * place that does.
 */
@NullMarked
package fabbrica.core.judge;

import org.jspecify.annotations.NullMarked;
