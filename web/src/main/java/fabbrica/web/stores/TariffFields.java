package fabbrica.web.stores;

import fabbrica.core.estimate.Tariff;
import fabbrica.core.units.Spoken;
import fabbrica.web.platform.FormValues;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.function.ToDoubleFunction;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import java.util.stream.Collectors;

/** The numbers of the lab's tariff, in the order of the values they make up; shares are entered in per cent. */
public final class TariffFields {

    public static final List<Field> ALL = List.of(
            new Field("plasticShare", "Of the spool's price", "%", 100, Tariff::plasticShare),
            new Field("perGram", "And a gram, whatever the spool", "", 1, Tariff::perGram),
            new Field("perHour", "Machine", "an hour", 1, Tariff::perHour),
            new Field("perKwh", "Electricity", "a kWh", 1, Tariff::perKwh),
            new Field("labourPerHour", "Labour", "an hour", 1, Tariff::labourPerHour),
            new Field("labourMinutes", "Labour of a print", "min", 1, Tariff::labourMinutes),
            new Field("supportMinutes", "Taking off supports", "min", 1, Tariff::supportMinutes),
            new Field("freeGrams", "Free a member and month", "g", 1, Tariff::freeGrams),
            new Field("freeHours", "Free a member and month", "h", 1, Tariff::freeHours),
            new Field("fineBelowMm", "Fine means layers below", "mm", 1, Tariff::fineBelowMm),
            new Field("fineSurcharge", "Fine costs more", "%", 100, Tariff::fineSurcharge),
            new Field("vat", "VAT, 0 for none", "%", 100, Tariff::vat),
            new Field("roundedTo", "Round the total to", "", 1, Tariff::roundedTo),
            new Field("askAbove", "Ask the member first above, 0 for never", "", 1, Tariff::askAbove));

    private static final Pattern RATE = Pattern.compile("(.*\\S)\\s+(\\d+(?:[.,]\\d+)?)\\s*%?");

    private TariffFields() {
    }

    /** @param factor from the value to what is entered */
    public record Field(String name, String label, String unit, double factor, ToDoubleFunction<Tariff> value) {
    }

    static Map<String, String> values(Tariff tariff) {
        Map<String, String> values = new LinkedHashMap<>();
        ALL.forEach(field -> values.put(field.name(),
                Spoken.number(field.value().applyAsDouble(tariff) * field.factor(), 4)));
        values.put("rates", tariff.rates().entrySet().stream().map(rate -> rate.getKey() + " "
                + Spoken.number(rate.getValue() * 100, 2)).collect(Collectors.joining("\n")));
        return values;
    }

    static Optional<Tariff> read(FormValues form) {
        double[] n = ALL.stream().mapToDouble(field -> form.number(field.name(), field.label()) / field.factor()).toArray();
        Map<String, Double> rates = rates(form);
        return form.made(() -> new Tariff(n[0], n[1], n[2], n[3], n[4], n[5], n[6], n[7], n[8], n[9], n[10], n[11], n[12], n[13], rates));
    }

    /** One class a line: its name and the per cent its members pay. */
    private static Map<String, Double> rates(FormValues form) {
        Map<String, Double> rates = new LinkedHashMap<>();
        for (String line : form.text("rates").lines().map(String::strip).filter(text -> !text.isEmpty()).toList()) {
            Matcher rate = RATE.matcher(line);
            if (rate.matches()) {
                rates.put(rate.group(1), Double.parseDouble(rate.group(2).replace(',', '.')) / 100);
            } else {
                form.problem("A class of members takes a name and the per cent they pay, such as “Students 80”; “%s” was given."
                        .formatted(line));
            }
        }
        return rates;
    }
}
