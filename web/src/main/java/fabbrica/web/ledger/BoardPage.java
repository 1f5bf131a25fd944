package fabbrica.web.ledger;

import fabbrica.core.ledger.Plastic;
import fabbrica.core.ledger.Sum;
import fabbrica.core.ledger.Use;
import fabbrica.core.ledger.Waits;
import fabbrica.core.units.Money;
import fabbrica.core.units.Spoken;
import fabbrica.web.ledger.UsePage.MachineRow;
import fabbrica.web.ledger.UsePage.Row;
import java.time.LocalDate;
import java.util.List;
import java.util.stream.Collectors;

/**
 * What whoever funds the lab is told of a period; nobody is named.
 *
 * @param before as many months before
 * @param paid   by members, in each currency; {@code paidBefore} in the months before
 * @param due    what is printed and not paid yet
 */
record BoardPage(String lab, LocalDate today, UsePage use, UsePage before, List<Money> paid, List<Money> paidBefore, List<Money> due) {

    private static final double KILO = 1000;
    /** So that the report stays within its two pages. */
    private static final int MOST_ROWS = 4;
    private static final int MOST_MACHINES = 10;

    /** A number that matters, and what it was before. */
    record Figure(String what, String value, String before) {
    }

    public List<Figure> figures() {
        Sum now = use.use().all(), then = before.use().all();
        return List.of(new Figure("things printed", Spoken.count(now.good()), Spoken.count(then.good())),
                new Figure("people", Spoken.count(use.people()), Spoken.count(before.people())),
                new Figure("machine hours", Spoken.number(now.hours(), 0), Spoken.number(then.hours(), 0)),
                new Figure("kg of plastic", Spoken.number(now.grams() / KILO, 1), Spoken.number(then.grams() / KILO, 1)),
                new Figure("of prints failed", Spoken.percent(now.failedShare()), Spoken.percent(then.failedShare())),
                new Figure("paid by members", said(paid), said(paidBefore)));
    }

    /** The classes of members for which most was printed. */
    public List<Row> classes() {
        return use.classes().stream().limit(MOST_ROWS).toList();
    }

    /** So with courses. */
    public List<Row> courses() {
        return use.courses().stream().limit(MOST_ROWS).toList();
    }

    /** Those that printed longest. */
    public List<MachineRow> machines() {
        return use.machineRows().stream().limit(MOST_MACHINES).toList();
    }

    /** The months that the figures are compared with. */
    public String beforeSpoken() {
        return before.use().period().spoken();
    }

    public String summary() {
        Use now = use.use();
        Sum sum = now.all();
        if (sum.copies() == 0) {
            return "Nothing was printed in %s.".formatted(now.period().spoken());
        }
        String things = "In %s, %s had %s printed, in %s hours of machine time.".formatted(now.period().spoken(), use.people() == 1 ? "one person" : Spoken.count(use.people()) + " people",
                Spoken.count(sum.good(), "thing"), Spoken.number(sum.hours(), 0));
        String failures = sum.failed() == 0 ? "No print failed." : "%s of %s failed.".formatted(Spoken.count(sum.failed()), Spoken.count(sum.copies(), "print"));
        return things + " " + failures + waiting(now.waits()) + wasted(now.plastic());
    }

    private static String waiting(Waits waits) {
        return waits.count() == 0 ? "" : " Half of what was handed out had come to the counter no more than %s before, nine in ten no more than %s."
                .formatted(Spoken.days(waits.median()), Spoken.days(waits.within(0.9)));
    }

    private static String wasted(Plastic plastic) {
        return plastic.all() == 0 ? "" : " Of %s of plastic, %s went into what people took home.".formatted(Spoken.weight(plastic.all()), Spoken.percent(plastic.parts() / plastic.all()));
    }

    public String said(List<Money> sums) {
        return sums.isEmpty() ? "nothing" : sums.stream().map(Money::toString).collect(Collectors.joining(", "));
    }
}
