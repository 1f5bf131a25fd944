package fabbrica.web.ledger;

import fabbrica.core.ledger.Entry.Who;
import fabbrica.core.ledger.Met;
import fabbrica.core.ledger.Plastic;
import fabbrica.core.ledger.Sum;
import fabbrica.core.ledger.Sums.Line;
import fabbrica.core.ledger.Use;
import fabbrica.core.ledger.Use.Machine;
import fabbrica.core.ledger.Waits;
import java.time.DayOfWeek;
import java.time.format.DateTimeFormatter;
import java.time.format.TextStyle;
import java.util.List;
import java.util.Locale;
import java.util.stream.IntStream;
import java.util.stream.Stream;

/**
 * What the lab did in a period, as tables with a drawing in each row.
 *
 * @param year     months that are shown one after another
 * @param machines that the lab has
 */
record UsePage(Use use, Use year, int machines) {

    private static final DateTimeFormatter MONTH = DateTimeFormatter.ofPattern("MMM yyyy", Locale.ENGLISH);
    private static final int MOST_MEMBERS = 50;

    /** A row of a table: what, what it came to, and its bar. */
    record Row(String what, Sum sum, String bar) {
    }

    /** Grams of one kind, their share of all, and the bar. */
    record Part(String what, double grams, double share, String bar) {
    }

    /** @param share of all hours of the period so far */
    record MachineRow(Machine machine, double share, String bar) {
    }

    /** @param share of the day during which the machines printed, 0 to 1 */
    record Day(String name, double share, String hours) {
    }

    /** What was promised and how often it was kept, where it was promised at all. */
    record Promise(String what, Met met) {
    }

    /** How long something took, where it is known of anything. */
    record Wait(String what, Waits waits) {
    }

    /** From the first in which something was printed. */
    public List<Row> months() {
        List<Line<String>> months = year.period().each().stream().map(month -> new Line<>(MONTH.format(month), year.month(month)))
                .dropWhile(line -> line.sum().equals(Sum.NOTHING)).toList();
        return rows(months, "");
    }

    public List<Row> purposes() {
        return rows(use.purposes().largestFirst(), "not said");
    }

    public List<Row> classes() {
        return rows(use.classes().largestFirst(), "no class");
    }

    /** What is of no course is left out. */
    public List<Row> courses() {
        return rows(use.courses().largestFirst().stream().filter(line -> !line.of().isEmpty()).toList(), "");
    }

    public List<Row> members() {
        return rows(use.members().largestFirst().stream().limit(MOST_MEMBERS).map(line -> new Line<>(line.of().name(), line.sum())).toList(), "nobody named");
    }

    /** Members who are not shown, since others had more printed. */
    public int membersBeyond() {
        return Math.max(0, use.members().largestFirst().size() - MOST_MEMBERS);
    }

    /** Those for whom something was printed. */
    public long people() {
        return use.members().largestFirst().stream().map(Line::of).mapToLong(Who::id).filter(id -> id > 0).count();
    }

    private static List<Row> rows(List<Line<String>> lines, String nameless) {
        double most = lines.stream().map(Line::sum).mapToDouble(Sum::hours).max().orElse(0);
        return lines.stream().map(line -> row(line.of().isEmpty() ? nameless : line.of(), line.sum(), most)).toList();
    }

    private static Row row(String what, Sum sum, double most) {
        return new Row(what, sum, UseChart.bar(sum.hours(), most));
    }

    public List<Part> plastic() {
        Plastic plastic = use.plastic();
        return Stream.of(part("In what people took home", plastic.parts()), part("Supports that were broken off", plastic.supports()),
                part("Purged beside the part", plastic.purged()), part("In prints that failed", plastic.failed()), part("In prints that were stopped", plastic.stopped()))
                .filter(part -> part.grams() > 0).toList();
    }

    private Part part(String what, double grams) {
        double all = Math.max(use.plastic().all(), 1e-9);
        return new Part(what, grams, grams / all, UseChart.bar(grams, all));
    }

    public List<MachineRow> machineRows() {
        double most = use.machines().stream().mapToDouble(Machine::hours).max().orElse(0), all = Math.max(use.occupancy().hours(), 1e-9);
        return use.machines().stream().map(machine -> new MachineRow(machine, machine.hours() / all, UseChart.bar(machine.hours(), most))).toList();
    }

    public List<Day> week() {
        return Stream.of(DayOfWeek.values()).map(day -> new Day(day.getDisplayName(TextStyle.SHORT, Locale.ENGLISH), use.occupancy().machines(day) / Math.max(1, machines),
                UseChart.day(use.occupancy(), day))).toList();
    }

    public List<Wait> waits() {
        return Stream.of(new Wait("From the counter until printed", use.toPrint()), new Wait("From printed until handed out", use.onTheShelf()),
                new Wait("From the counter until handed out", use.waits())).filter(wait -> wait.waits().count() > 0).toList();
    }

    public List<Promise> promises() {
        return Stream.of(new Promise("Printed by the time a member needed it", use.inTime()), new Promise("Printed by the time a member was told last", use.asTold()),
                new Promise("Print took no longer than promised", use.notLater()), new Promise("Print time between its bounds (four in five are to be)", use.inRange()))
                .filter(promise -> promise.met().of() > 0).toList();
    }

    /** What stands under the columns of {@link #waited()}. */
    public List<String> days() {
        return IntStream.rangeClosed(0, Waits.DAYS).mapToObj(day -> day == 0 ? "<1" : day == 1 ? "1 day" : day < Waits.DAYS ? Integer.toString(day) : "more").toList();
    }

    public String waited() {
        return UseChart.waits(use.waits());
    }
}
