package fabbrica.web.platform;

import java.time.LocalDate;
import java.time.LocalDateTime;
import java.time.format.DateTimeParseException;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import org.springframework.util.LinkedMultiValueMap;
import org.springframework.util.MultiValueMap;

/** Reads what was typed into a form; whatever cannot be used becomes a sentence, and all sentences come at once. */
public final class FormValues {

    private static final int LONGEST_TEXT = 4000;

    private final MultiValueMap<String, String> values;
    private final List<String> problems;

    public FormValues(MultiValueMap<String, String> values) {
        this(values, new ArrayList<>());
    }

    private FormValues(MultiValueMap<String, String> values, List<String> problems) {
        this.values = values;
        this.problems = problems;
    }

    /** Of fields that come once for each row of a table, one row's; its problems are the form's. */
    public FormValues row(int index) {
        MultiValueMap<String, String> row = new LinkedMultiValueMap<>();
        values.forEach((name, all) -> row.set(name, index < all.size() ? all.get(index) : ""));
        return new FormValues(row, problems);
    }

    public String text(String name) {
        String value = values.getFirst(name);
        String text = value == null ? "" : value.strip();
        return text.substring(0, Math.min(LONGEST_TEXT, text.length()));
    }

    public String required(String name, String label) {
        String text = text(name);
        if (text.isEmpty()) {
            problems.add(label + " is missing.");
        }
        return text;
    }

    /** A number with a decimal point or comma; NaN, with a problem noted, when it is none. */
    public double number(String name, String label) {
        String text = text(name);
        try {
            double value = Double.parseDouble(text.replace(',', '.'));
            if (Double.isFinite(value)) {
                return value;
            }
        } catch (NumberFormatException e) {
            // Falls through to the sentence below.
        }
        problems.add(text.isEmpty() ? label + " is missing." : label + " takes a number; “" + text + "” was given.");
        return Double.NaN;
    }

    public int count(String name, String label) {
        double value = number(name, label);
        if (!Double.isNaN(value) && (value != Math.rint(value) || Math.abs(value) > 1e9)) {
            problems.add(label + " takes a whole number; “" + text(name) + "” was given.");
        }
        return (int) value;
    }

    public boolean flag(String name) {
        return values.containsKey(name);
    }

    public List<String> all(String name) {
        return values.getOrDefault(name, List.of());
    }

    /** A date and time as browsers send it; empty when left out. */
    public Optional<LocalDateTime> moment(String name, String label) {
        String text = text(name);
        try {
            return text.isEmpty() ? Optional.empty() : Optional.of(LocalDateTime.parse(text));
        } catch (DateTimeParseException e) {
            problems.add(label + " takes a date and a time; “" + text + "” was given.");
            return Optional.empty();
        }
    }

    /** A date as browsers send it; empty when left out. */
    public Optional<LocalDate> day(String name, String label) {
        String text = text(name);
        try {
            return text.isEmpty() ? Optional.empty() : Optional.of(LocalDate.parse(text));
        } catch (DateTimeParseException e) {
            problems.add(label + " takes a date.");
            return Optional.empty();
        }
    }

    public void problem(String sentence) {
        problems.add(sentence);
    }

    /** Runs a check that throws a sentence for a value out of range. */
    public <T> Optional<T> made(java.util.function.Supplier<T> value) {
        if (!problems.isEmpty()) {
            return Optional.empty();
        }
        try {
            return Optional.of(value.get());
        } catch (fabbrica.core.units.OutOfRange e) {
            problems.add(e.getMessage());
            return Optional.empty();
        }
    }

    public List<String> problems() {
        return List.copyOf(problems);
    }

    public boolean fine() {
        return problems.isEmpty();
    }

    /** @throws Refusal with all sentences when there is any problem */
    public void refuseIfWrong() {
        if (!problems.isEmpty()) {
            throw new Refusal(String.join(" ", problems));
        }
    }
}
