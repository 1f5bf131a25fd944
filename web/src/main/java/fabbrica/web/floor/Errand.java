package fabbrica.web.floor;

import fabbrica.web.platform.Seen;
import java.time.Instant;
import java.util.List;
import org.jspecify.annotations.Nullable;

/**
 * Something that waits for whoever is on duty.
 *
 * @param place where in the room
 * @param what  a sentence
 * @param hint  what to mind or to take along; may be empty
 * @param since when it has waited since; null when that does not matter
 */
record Errand(String place, String what, String hint, @Nullable Instant since, List<Press> presses) {

    /**
     * A way to see to it.
     *
     * @param seen  the mark of what the form was made from; empty when it leads to another page
     * @param grams the name of a weight that is asked for; empty when none is
     * @param flag  the name of what is ticked with it; empty when nothing is
     */
    record Press(String label, String address, String seen, String grams, String flag) {

        static Press go(String label, String address) {
            return new Press(label, address, "", "", "");
        }

        static Press send(String label, String address, Object seen) {
            return new Press(label, address, Seen.of(seen), "", "");
        }

        Press asking(String weight) {
            return new Press(label, address, seen, weight, flag);
        }

        Press with(String ticked) {
            return new Press(label, address, seen, grams, ticked);
        }

        /** Of the weight on the page, the same as long as it is asked for. */
        public String field() {
            return grams + address.replaceAll("\\D", "");
        }

        public boolean leads() {
            return seen.isEmpty();
        }
    }
}
