package fabbrica.core.estimate;

import fabbrica.core.recipe.Spool;
import fabbrica.core.units.Money;
import fabbrica.core.units.OutOfRange;
import fabbrica.core.units.Spoken;
import java.math.BigDecimal;
import java.math.RoundingMode;
import java.util.ArrayList;
import java.util.Collections;
import java.util.Currency;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.function.ToDoubleFunction;
import org.jspecify.annotations.Nullable;

/**
 * What a lab asks for a print. Any of it may be 0.
 *
 * @param plasticShare    of the spool's price that is passed on, 1 for all of it
 * @param perGram         for each gram, whatever the spool cost
 * @param perHour         for each hour of a machine that has no price of its own
 * @param perKwh          for electricity
 * @param labourPerHour   for the minutes somebody works on it
 * @param labourMinutes   of one print; taking off supports comes on top
 * @param supportMinutes  labour where supports have to come off
 * @param freeGrams       a member and month
 * @param freeHours       a member and month
 * @param fineBelowMm     layers thinner than this cost more
 * @param fineSurcharge   by this share of what the print costs
 * @param vat             share of the total, 0 where none is shown
 * @param roundedTo       smallest step of the total, such as 0.05
 * @param askAbove        a price above this is asked about before anything is printed; 0 asks never
 * @param rates           share of the price that members of a class pay, by the name of the class
 */
public record Tariff(double plasticShare, double perGram, double perHour, double perKwh, double labourPerHour,
                     double labourMinutes, double supportMinutes, double freeGrams, double freeHours, double fineBelowMm, double fineSurcharge, double vat,
                     double roundedTo, double askAbove, Map<String, Double> rates) {

    /** Plastic at cost, nothing else (common practice, no source). */
    public static final Tariff PLASTIC_ONLY = new Tariff(1, 0, 0, 0, 0, 10, 15, 0, 0, 0, 0,
            0, 0.01, 0, Map.of());

    /** A line of a quote: what, how much of it, for how much; taken off when below zero. */
    public record Item(String what, String quantity, Money amount) {
    }

    /** @param vatIncluded 0 where none is shown */
    public record Quote(List<Item> items, Money total, Money vatIncluded) {
    }

    public Tariff {
        OutOfRange.check("Share of the spool's price", plasticShare * 100, 0, 1000, "%");
        OutOfRange.check("Price per gram", perGram, 0, 1000, "");
        OutOfRange.check("Price per machine hour", perHour, 0, 10_000, "");
        OutOfRange.check("Price per kWh", perKwh, 0, 100, "");
        OutOfRange.check("Price per hour of labour", labourPerHour, 0, 10_000, "");
        OutOfRange.check("Labour", labourMinutes, 0, 600, "min");
        OutOfRange.check("Labour for supports", supportMinutes, 0, 600, "min");
        OutOfRange.check("Free grams", freeGrams, 0, 100_000, "g");
        OutOfRange.check("Free hours", freeHours, 0, 1000, "h");
        OutOfRange.check("Fine below", fineBelowMm, 0, 2, "mm");
        OutOfRange.check("Surcharge for fine layers", fineSurcharge * 100, 0, 1000, "%");
        OutOfRange.check("VAT", vat * 100, 0, 100, "%");
        OutOfRange.check("Rounding step", roundedTo, 0.001, 100, "");
        OutOfRange.check("Ask above", askAbove, 0, 1_000_000, "");
        rates = Collections.unmodifiableMap(new LinkedHashMap<>(rates));
        rates.forEach((name, share) -> OutOfRange.check("Rate for " + name, share * 100, 0, 1000, "%"));
    }

    /**
     * What is printed for a member in one run: a plate, or her share of one.
     *
     * @param prints    1 for a whole plate, less for a share of one
     * @param supported of them, those from which supports have to come off
     * @param failures  share of runs of this printer that fail, 0 to below 1: each print bears its part of them
     */
    public record Load(double grams, double seconds, double kwh, double prints, double supported, double layerHeightMm, Spool spool,
                       MachineCost machine, double failures) {

        /** A whole plate. */
        public static Load of(Expected plate, double layerHeightMm, Spool spool, MachineCost machine, double failures) {
            return new Load(plate.grams(), plate.totalSeconds(), machine.kwh(plate.prepareSeconds(), plate.printSeconds()), 1, plate.raw().supportG() > 0 ? 1 : 0,
                    layerHeightMm, spool, machine, failures);
        }

        private double hours() {
            return seconds / 3600;
        }
    }

    /**
     * @param loads       all that is printed, at least one
     * @param used        what the member has had free this month
     * @param memberClass one that has no rate pays the whole price
     */
    public Quote quote(List<Load> loads, Used used, String memberClass) {
        Currency currency = loads.getFirst().spool().currency();
        List<Item> items = new ArrayList<>();
        double grams = sum(loads, Load::grams), hours = sum(loads, Load::hours), sum = 0;
        double plastic = sum(loads, this::plastic), machine = sum(loads, this::machine);
        sum += add(items, "Plastic", Spoken.grams(grams), plastic, currency);
        sum += add(items, "Machine", Spoken.duration(hours * 3600), machine, currency);
        sum += add(items, "Electricity", Spoken.number(sum(loads, Load::kwh), 2) + " kWh", sum(loads, Load::kwh) * perKwh, currency);
        sum += add(items, "Labour", Spoken.number(sum(loads, this::minutes), 0) + " min", sum(loads, this::minutes) / 60 * labourPerHour, currency);
        double direct = sum(loads, this::direct), failed = sum(loads, this::failed);
        sum += add(items, "For prints that fail", Spoken.number(direct == 0 ? 0 : failed / (direct + failed) * 100, 0) + " % of runs", failed, currency);
        sum += add(items, "Fine layers", "+ %s %%".formatted(Spoken.number(fineSurcharge * 100, 0)),
                sum(loads, load -> load.layerHeightMm() < fineBelowMm ? (direct(load) + failed(load)) * fineSurcharge : 0), currency);
        double freeG = Math.min(grams, Math.max(0, freeGrams - used.grams()));
        sum += add(items, "Free this month", Spoken.grams(freeG), grams == 0 ? 0 : -freeG * plastic / grams, currency);
        double freeH = Math.min(hours, Math.max(0, freeHours - used.hours()));
        sum += add(items, "Free this month", Spoken.duration(freeH * 3600), hours == 0 ? 0 : -freeH * machine / hours, currency);
        double rate = rates.getOrDefault(memberClass, 1.0);
        sum += add(items, "Rate for " + memberClass, "%s %%".formatted(Spoken.number(rate * 100, 0)), sum * (rate - 1),
                currency);
        double included = add(items, "VAT", Spoken.number(vat * 100, 1) + " %", Math.max(0, sum) * vat, currency);
        BigDecimal step = BigDecimal.valueOf(roundedTo);
        BigDecimal exact = BigDecimal.valueOf(Math.max(0, sum) + included);
        Money total = new Money(exact.divide(step, 0, RoundingMode.HALF_UP).multiply(step), currency);
        add(items, "Rounding", "", total.amount().doubleValue() - sum - included, currency);
        return new Quote(items, total, Money.of(included, currency));
    }

    /**
     * Whether a price has to be asked about.
     *
     * @param agreed the price up to which the member has said yes; null while she has not
     */
    public boolean asksAbout(Money price, @Nullable Money agreed) {
        return askAbove > 0 && price.amount().doubleValue() > askAbove && (agreed == null || agreed.amount().compareTo(price.amount()) < 0);
    }

    private double plastic(Load load) {
        return load.grams() * (load.spool().pricePerKg() / 1000 * plasticShare + perGram);
    }

    private double machine(Load load) {
        return load.hours() * load.machine().perHour().orElse(perHour);
    }

    private double minutes(Load load) {
        return load.prints() * labourMinutes + load.supported() * supportMinutes;
    }

    private double direct(Load load) {
        return plastic(load) + machine(load) + load.kwh() * perKwh + minutes(load) / 60 * labourPerHour;
    }

    private double failed(Load load) {
        return direct(load) * load.failures() / (1 - load.failures());
    }

    private static double sum(List<Load> loads, ToDoubleFunction<Load> of) {
        return loads.stream().mapToDouble(of).sum();
    }

    /** What a member has had free this month. */
    public record Used(double grams, double hours) {

        public static final Used NOTHING = new Used(0, 0);
    }

    /** Adds what is worth at least the smallest coin. @return what was added, rounded, so that the items add up */
    private static double add(List<Item> items, String what, String quantity, double amount, Currency currency) {
        Money money = Money.of(amount, currency);
        if (money.amount().signum() != 0) {
            items.add(new Item(what, quantity, money));
        }
        return money.amount().doubleValue();
    }
}
