package fabbrica.web.floor;

import java.time.Instant;
import java.util.List;

/**
 * A floor plan that is being made.
 *
 * @param madeBy the name by which they sign in; empty when it was made by itself
 * @param what   was done last, a phrase
 * @param placed in the order in which they are laid out
 */
record Draft(long id, Instant madeAt, String madeBy, String what, List<Placed> placed) {

    Draft {
        placed = List.copyOf(placed);
    }
}
