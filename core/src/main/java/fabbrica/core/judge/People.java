package fabbrica.core.judge;

import java.time.Instant;
import java.util.List;
import org.jspecify.annotations.Nullable;

/**
 * Who a plate is printed for, and whether somebody is there.
 *
 * @param staffedUntil until when somebody is there without a break; null when nobody is
 * @param looked       whether it matters who is there: not while a plate is only planned
 */
public record People(List<Person> members, @Nullable Instant staffedUntil, boolean looked) {

    /** Nobody named, at no time in particular. */
    public static final People NOBODY = new People(List.of(), null, false);

    /**
     * One of those it is printed for.
     *
     * @param answeredFor whether a grown-up is named for a minor
     * @param trained     whether they have the printer's badge
     * @param usedG       plastic this month, this plate not among it
     * @param usedHours   of machines this month, so too
     * @param portion     part of the plate that is theirs, 0 to 1
     */
    public record Person(String name, boolean minor, boolean answeredFor, boolean trained, double usedG, double usedHours, double portion) {
    }
}
