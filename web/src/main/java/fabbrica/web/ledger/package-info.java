/** Every run that was made, filtered, summed up, and as CSV. From runs, for the lab's books. */
@NullMarked
package fabbrica.web.ledger;

import org.jspecify.annotations.NullMarked;
