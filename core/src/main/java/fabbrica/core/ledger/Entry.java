package fabbrica.core.ledger;

import fabbrica.core.units.Money;
import java.time.YearMonth;

/**
 * What one copy of a run took, and for whom: its share of the run. Names may be empty where nobody has said.
 *
 * @param month       in which the run was started
 * @param memberClass by which the lab tells members apart
 * @param course      class or course that it is of
 * @param grams       all that it took
 * @param supported   of the grams, the share that was broken off, 0 to 1; so {@code purged}, the share that went beside the part
 * @param cost        of the plastic
 */
public record Entry(YearMonth month, Who member, String memberClass, String course, String purpose, Ending ending, double grams, double supported, double purged,
                    double seconds, Money cost) {

    /** How a copy ended. */
    public enum Ending { GOOD, FAILED, STOPPED }

    /** @param id tells members of the same name apart; 0 for nobody */
    public record Who(long id, String name) {

        public static final Who NOBODY = new Who(0, "");
    }
}
