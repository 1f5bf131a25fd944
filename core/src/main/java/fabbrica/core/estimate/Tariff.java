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
 * @param rates           share of the price that members of a class pay, by the name of the class
 */
public record Tariff(double plasticShare, double perGram, double perHour, double perKwh, double labourPerHour,
                     double labourMinutes, double supportMinutes, double freeGrams, double freeHours, double fineBelowMm, double fineSurcharge, double vat,
                     double roundedTo, Map<String, Double> rates) {

    /** Plastic at cost, nothing else (common practice, no source). */
    public static final Tariff PLASTIC_ONLY = new Tariff(1, 0, 0, 0, 0, 10, 15, 0, 0, 0, 0,
            0, 0.01, Map.of());

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
        rates = Collections.unmodifiableMap(new LinkedHashMap<>(rates));
        rates.forEach((name, share) -> OutOfRange.check("Rate for " + name, share * 100, 0, 1000, "%"));
    }

    /**
     * @param plates      all that are printed
     * @param used        what the member has had free this month
     * @param failures    share of runs of this printer that fail, 0 to below 1: each print bears its part of them
     * @param memberClass one that has no rate pays the whole price
     */
    public Quote quote(List<Estimate> plates, double layerHeightMm, Spool spool, MachineCost machine, Used used, double failures,
                       String memberClass) {
        Currency currency = spool.currency();
        List<Item> items = new ArrayList<>();
        double grams = plates.stream().mapToDouble(Estimate::grams).sum();
        double hours = plates.stream().mapToDouble(Estimate::totalSeconds).sum() / 3600, sum = 0;
        double gramPrice = spool.pricePerKg() / 1000 * plasticShare + perGram;
        sum += add(items, "Plastic", Spoken.grams(grams), grams * gramPrice, currency);
        double hourPrice = machine.perHour().orElse(perHour);
        sum += add(items, "Machine", Spoken.duration(hours * 3600), hours * hourPrice, currency);
        double kwh = plates.stream().mapToDouble(machine::kwh).sum();
        sum += add(items, "Electricity", Spoken.number(kwh, 2) + " kWh", kwh * perKwh, currency);
        double minutes = plates.stream().mapToDouble(plate -> labourMinutes + (plate.supportG() > 0 ? supportMinutes : 0)).sum();
        sum += add(items, "Labour", Spoken.number(minutes, 0) + " min", minutes / 60 * labourPerHour, currency);
        sum += add(items, "For prints that fail", Spoken.number(failures * 100, 0) + " % of runs",
                sum * failures / (1 - failures), currency);
        if (layerHeightMm < fineBelowMm) {
            sum += add(items, "Fine layers", "+ %s %%".formatted(Spoken.number(fineSurcharge * 100, 0)),
                    sum * fineSurcharge, currency);
        }
        double freeG = Math.min(grams, Math.max(0, freeGrams - used.grams()));
        sum += add(items, "Free this month", Spoken.grams(freeG), -freeG * gramPrice, currency);
        double freeH = Math.min(hours, Math.max(0, freeHours - used.hours()));
        sum += add(items, "Free this month", Spoken.duration(freeH * 3600), -freeH * hourPrice, currency);
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
