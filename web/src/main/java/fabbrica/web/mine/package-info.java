/**
 * A member's own side of the counter: she hands in, reads in plain words where things stand and what is asked of her, answers and
 * withdraws. For members; nothing of anybody else is shown here.
 */
@NullMarked
package fabbrica.web.mine;

import org.jspecify.annotations.NullMarked;

