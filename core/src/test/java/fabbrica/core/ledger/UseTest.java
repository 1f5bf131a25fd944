package fabbrica.core.ledger;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import fabbrica.core.ledger.Entry.Ending;
import fabbrica.core.ledger.Entry.Who;
import fabbrica.core.ledger.Ran.Within;
import fabbrica.core.ledger.Sums.Line;
import fabbrica.core.ledger.Use.Machine;
import fabbrica.core.units.Money;
import java.time.Duration;
import java.time.Instant;
import java.time.YearMonth;
import java.time.ZoneId;
import java.util.Currency;
import java.util.List;
import org.jspecify.annotations.Nullable;
import org.junit.jupiter.api.Test;

class UseTest {

    private static final ZoneId ZONE = ZoneId.of("Europe/Berlin");
    private static final Currency EUR = Currency.getInstance("EUR");
    private static final YearMonth NOVEMBER = YearMonth.of(2026, 11);
    private static final Who ADA = new Who(1, "Ada"), OTHER_ADA = new Who(2, "Ada");

    private final Use use = new Use(new Period(NOVEMBER, NOVEMBER), ZONE, Instant.parse("2027-01-01T00:00:00Z"));

    private static Entry entry(YearMonth month, Who who, Ending ending, double grams, double hours, long cents) {
        return new Entry(month, who, "Students", "", "Display", ending, grams, 0.25, 0.05, 3600 * hours, Money.ofCoins(cents, EUR));
    }

    @Test
    void what_copies_took_adds_up_by_whatever_they_are_told_apart_by() {
        use.add(entry(NOVEMBER, ADA, Ending.GOOD, 20, 2, 50));
        use.add(entry(NOVEMBER, OTHER_ADA, Ending.GOOD, 30, 3, 75));
        use.add(entry(NOVEMBER, ADA, Ending.FAILED, 10, 1, 25));
        use.add(entry(NOVEMBER, ADA, Ending.STOPPED, 4, 0.5, 10));
        use.add(entry(NOVEMBER.plusMonths(1), ADA, Ending.GOOD, 1000, 100, 2500));
        assertThat(use.all()).isEqualTo(new Sum(3, 1, 6.5, 64, List.of(Money.ofCoins(160, EUR))));
        assertThat(use.all().good()).isEqualTo(2);
        assertThat(use.all().failedShare()).isCloseTo(1 / 3.0, within(1e-12));
        assertThat(use.members().largestFirst()).extracting(Line::of).containsExactly(ADA, OTHER_ADA);
        assertThat(use.members().of(OTHER_ADA).grams()).isEqualTo(30);
        assertThat(use.classes().of("Students")).isEqualTo(use.all());
        assertThat(use.purposes().of("Prototype")).isEqualTo(Sum.NOTHING);
        assertThat(use.month(NOVEMBER)).isEqualTo(use.all());
    }

    @Test
    void every_gram_went_somewhere() {
        use.add(entry(NOVEMBER, ADA, Ending.GOOD, 20, 2, 50));
        use.add(entry(NOVEMBER, ADA, Ending.FAILED, 10, 1, 25));
        use.add(entry(NOVEMBER, ADA, Ending.STOPPED, 4, 0.5, 10));
        assertThat(use.plastic()).isEqualTo(new Plastic(14, 5, 1, 10, 4));
        assertThat(use.plastic().all()).isEqualTo(use.all().grams());
    }

    @Test
    void money_of_several_currencies_is_not_added_up() {
        use.add(entry(NOVEMBER, ADA, Ending.GOOD, 20, 2, 50));
        use.add(new Entry(NOVEMBER, ADA, "", "", "", Ending.GOOD, 1, 0, 0, 60, Money.ofCoins(30, Currency.getInstance("CHF"))));
        assertThat(use.all().cost()).hasToString("[0.30 CHF, 0.50 EUR]");
    }

    @Test
    void machines_are_told_with_their_hours_and_how_their_times_kept_to_what_was_promised() {
        use.add(ran("Door", Within.IN_RANGE));
        use.add(ran("Door", Within.SOONER));
        use.add(ran("Door", Within.LATER));
        use.add(ran("Door", Within.UNTOLD));
        use.add(new Ran("Glass", NOVEMBER, Instant.parse("2026-11-05T09:00:00Z"), 7200, true, Within.UNTOLD));
        assertThat(use.machines()).containsExactly(new Machine("Door", 4, 0, 4), new Machine("Glass", 1, 1, 2));
        assertThat(use.inRange()).isEqualTo(new Met(1, 3));
        assertThat(use.notLater()).isEqualTo(new Met(2, 3));
        assertThat(Ran.within(100, 90, 110)).isEqualTo(Within.IN_RANGE);
        assertThat(Ran.within(89, 90, 110)).isEqualTo(Within.SOONER);
        assertThat(Ran.within(111, 90, 110)).isEqualTo(Within.LATER);
    }

    private static Ran ran(String printer, Within within) {
        return new Ran(printer, NOVEMBER, Instant.parse("2026-11-04T09:00:00Z"), 3600, false, within);
    }

    @Test
    void people_wait_from_the_counter_to_the_hand_out() {
        use.add(handedOut(2, 5, null, null));
        use.add(handedOut(4, 6, 5, 3));
        use.add(handedOut(3, 7, 2, null));
        assertThat(use.waits().median()).isEqualTo(6 * 3600);
        assertThat(use.toPrint().median()).isEqualTo(3 * 3600);
        assertThat(use.onTheShelf().median()).isEqualTo(3 * 3600);
        assertThat(use.inTime()).isEqualTo(new Met(1, 2));
        assertThat(use.asTold()).isEqualTo(new Met(0, 1));
    }

    private static HandedOut handedOut(int ready, int out, @Nullable Integer neededBy, @Nullable Integer collectBy) {
        return new HandedOut(NOVEMBER, hour(0), hour(ready), hour(out), neededBy == null ? null : hour(neededBy), collectBy == null ? null : hour(collectBy));
    }

    private static Instant hour(int hour) {
        return Instant.parse("2026-11-02T08:00:00Z").plus(Duration.ofHours(hour));
    }
}
