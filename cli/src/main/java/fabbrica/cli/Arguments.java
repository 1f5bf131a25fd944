package fabbrica.cli;

import fabbrica.core.inspect.PrintLimits;
import fabbrica.core.recipe.RecipeField;
import fabbrica.core.recipe.RecipeValues;
import fabbrica.core.units.LengthUnit;
import fabbrica.core.units.OutOfRange;
import java.nio.file.Path;
import java.util.Arrays;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import org.apache.commons.cli.CommandLine;
import org.apache.commons.cli.DefaultParser;
import org.apache.commons.cli.Options;
import org.apache.commons.cli.ParseException;

/** What was given on the command line, with a sentence for whatever cannot be used. */
final class Arguments {

    private static final String[] VALUES = {"unit", "scale", "limit-mb", "printer", "material", "nozzle", "acceleration", "max-flow",
            "orient", "jerk", "junction-deviation", "count", "prepare", "needed-by", "start", "box", "seconds", "port", "speed", "card",
            "name", "slower", "noise"};
    private static final String NOT = "no-";
    private static final int DEFAULT_LIMIT_MB = 200;

    private final CommandLine line;

    private Arguments(CommandLine line) {
        this.line = line;
    }

    static Arguments parse(String[] words) throws ParseException {
        Options options = new Options().addOption(null, "json", false, "one JSON document")
                .addOption("o", null, true, "the file to write")
                .addOption(null, "one-by-one", false, "copies one after another instead of layer by layer")
                .addOption(null, "verify", false, "check a plan instead of making one")
                .addOption(null, "flawless", false, "nothing goes wrong by itself")
                .addOption(null, "soundness", false, "measure the mesh's soundness and nothing else");
        for (String value : VALUES) {
            options.addOption(null, value, true, value);
        }
        for (RecipeField field : RecipeField.values()) {
            boolean flag = field.kind() instanceof RecipeField.Flag;
            options.addOption(null, field.option(), !flag, field.label());
            if (flag) {
                options.addOption(null, NOT + field.option(), false, "not: " + field.label());
            }
        }
        return new Arguments(DefaultParser.builder().setAllowPartialMatching(false).get().parse(options, words));
    }

    /** @throws ParseException when no file is named */
    List<Path> files() throws ParseException {
        if (line.getArgList().isEmpty()) {
            throw new ParseException("Name a file: STL, OBJ, 3MF, PLY, AMF, or a ZIP archive with them.");
        }
        return line.getArgList().stream().map(Path::of).toList();
    }

    /** The file to read and the file to write. */
    List<Path> inAndOut() throws ParseException {
        if (line.getArgList().size() != 2) {
            throw new ParseException("Name the file to read and the file to write.");
        }
        return files();
    }

    /** The values that were given put over others. */
    RecipeValues over(RecipeValues values) {
        RecipeValues over = values;
        for (RecipeField field : RecipeField.values()) {
            String option = field.option();
            if (line.hasOption(option) || line.hasOption(NOT + option)) {
                over = over.with(field, given(field, option));
            }
        }
        return over;
    }

    private Object given(RecipeField field, String option) {
        return switch (field.kind()) {
            case RecipeField.Amount amount when amount.whole() -> count(option, 0);
            case RecipeField.Amount amount -> number(option, Double.NaN);
            case RecipeField.Choice choice -> known(field, choice);
            case RecipeField.Heights heights -> heights(option);
            case RecipeField.Flag flag -> line.hasOption(option);
        };
    }

    private String known(RecipeField field, RecipeField.Choice choice) {
        String code = word(field.option()).orElseThrow();
        List<String> codes = choice.options().stream().map(RecipeField.Option::code).toList();
        if (!codes.contains(code.toLowerCase(Locale.ROOT))) {
            throw new OutOfRange("--%s takes one of %s; “%s” was given.".formatted(field.option(), String.join(", ", codes), code));
        }
        return code;
    }

    private List<Double> heights(String option) {
        String word = word(option).orElseThrow();
        try {
            return Arrays.stream(word.split(",")).map(Double::valueOf).toList();
        } catch (NumberFormatException e) {
            throw new OutOfRange("--%s takes heights in mm with commas between; “%s” was given.".formatted(option, word));
        }
    }

    boolean oneByOne() {
        return line.hasOption("one-by-one");
    }

    boolean soundnessOnly() {
        return line.hasOption("soundness");
    }

    boolean flawless() {
        return line.hasOption("flawless");
    }

    boolean verify() {
        return line.hasOption("verify");
    }

    /** Whether the part is to be turned into its best pose first. */
    boolean orientBest() {
        String orient = word("orient").orElse("as-it-lies");
        if (!orient.equals("best") && !orient.equals("as-it-lies")) {
            throw new OutOfRange("--orient must be best or as-it-lies; “%s” was given.".formatted(orient));
        }
        return orient.equals("best");
    }

    /** What a nozzle of the given bore holds of fine shapes. */
    PrintLimits limits() {
        return PrintLimits.of(OutOfRange.check("--nozzle", number("nozzle", 0.4), 0.1, 2, "mm"));
    }

    boolean json() {
        return line.hasOption("json");
    }

    Optional<String> word(String name) {
        return Optional.ofNullable(line.getOptionValue(name));
    }

    /** All values of an option that may come more than once. */
    List<String> words(String name) {
        return line.hasOption(name) ? List.of(line.getOptionValues(name)) : List.of();
    }

    double number(String name, double otherwise) {
        Optional<String> word = word(name);
        try {
            return word.map(Double::parseDouble).orElse(otherwise);
        } catch (NumberFormatException e) {
            throw new OutOfRange("--%s takes a number; “%s” was given.".formatted(name, word.orElseThrow()));
        }
    }

    int count(String name, int otherwise) {
        double number = number(name, otherwise);
        if (number != Math.rint(number)) {
            throw new OutOfRange("--%s takes a whole number; “%s” was given.".formatted(name,
                    word(name).orElseThrow()));
        }
        return (int) number;
    }

    /** Millimetres: what {@code auto} stands for unless the file itself names a unit. */
    LengthUnit unit(Optional<LengthUnit> declared) {
        String unit = word("unit").orElse("auto");
        if (unit.equals("auto")) {
            return declared.orElse(LengthUnit.MILLIMETRE);
        }
        return LengthUnit.ofSymbol(unit).orElseThrow(() -> new OutOfRange(
                "--unit must be one of auto, mm, cm, m, in, ft; “%s” was given.".formatted(unit)));
    }

    double scale() {
        return OutOfRange.check("--scale", number("scale", 1), 1e-4, 1e4, "");
    }

    long limitBytes() {
        return (long) OutOfRange.check("--limit-mb", count("limit-mb", DEFAULT_LIMIT_MB), 1, 100_000) * 1024 * 1024;
    }
}
