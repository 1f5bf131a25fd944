package fabbrica.core.ledger;

import fabbrica.core.units.OutOfRange;
import java.time.Instant;
import java.time.YearMonth;
import java.time.ZoneId;
import java.time.format.DateTimeFormatter;
import java.time.temporal.ChronoUnit;
import java.util.List;
import java.util.Locale;
import java.util.stream.IntStream;

/** Months that follow one another, the first and the last among them. */
public record Period(YearMonth from, YearMonth to) {

    private static final DateTimeFormatter MONTH = DateTimeFormatter.ofPattern("MMMM", Locale.ENGLISH);
    private static final DateTimeFormatter MONTH_OF_YEAR = DateTimeFormatter.ofPattern("MMMM yyyy", Locale.ENGLISH);
    private static final int MOST = 1200;

    public Period {
        if (to.isBefore(from)) {
            throw new OutOfRange("The last month comes before the first.");
        }
        if (months(from, to) > MOST) {
            throw new OutOfRange("More than a hundred years are too many at once.");
        }
    }

    /** So many months, of which this is the last. */
    public static Period upTo(YearMonth last, int months) {
        return new Period(last.minusMonths(months - 1), last);
    }

    /** What takes in all of some periods, of which there is at least one. */
    public static Period around(List<Period> periods) {
        return new Period(periods.stream().map(Period::from).min(YearMonth::compareTo).orElseThrow(), periods.stream().map(Period::to).max(YearMonth::compareTo).orElseThrow());
    }

    public int months() {
        return months(from, to);
    }

    /** As many months, just before these. */
    public Period before() {
        return new Period(from.minusMonths(months()), to.minusMonths(months()));
    }

    public boolean contains(YearMonth month) {
        return !month.isBefore(from) && !month.isAfter(to);
    }

    /** Each month, in order. */
    public List<YearMonth> each() {
        return IntStream.range(0, months()).mapToObj(from::plusMonths).toList();
    }

    public Instant start(ZoneId zone) {
        return from.atDay(1).atStartOfDay(zone).toInstant();
    }

    /** When the month after it begins. */
    public Instant end(ZoneId zone) {
        return to.plusMonths(1).atDay(1).atStartOfDay(zone).toInstant();
    }

    /** "November 2026", "September to November 2026", "December 2025 to February 2026". */
    public String spoken() {
        return from.equals(to) ? MONTH_OF_YEAR.format(to)
                : (from.getYear() == to.getYear() ? MONTH : MONTH_OF_YEAR).format(from) + " to " + MONTH_OF_YEAR.format(to);
    }

    private static int months(YearMonth from, YearMonth to) {
        return (int) ChronoUnit.MONTHS.between(from, to) + 1;
    }
}
