package fabbrica.core.recipe;

import fabbrica.core.units.OutOfRange;
import fabbrica.core.units.Spoken;
import java.util.Arrays;
import java.util.List;
import java.util.Locale;
import java.util.function.Function;
import java.util.function.Predicate;
import java.util.function.ToDoubleFunction;
import java.util.stream.Collectors;

/**
 * A value of a recipe as people set and read it: its name, unit, range and meaning, for forms, the shell, JSON and sentences alike.
 * {@link RecipeValues} makes a recipe of such values.
 */
public enum RecipeField {

    LAYER_HEIGHT("Layer height", "mm", new Amount(0.02, 1.5, false, Recipe::layerHeightMm), "Thinner layers look finer and take longer."),
    FIRST_LAYER_HEIGHT("First layer height", "mm", new Amount(0.05, 1.5, false, Recipe::firstLayerHeightMm), "A thick first layer forgives a bed that is not quite level."),
    LINE_WIDTH("Line width", "mm", new Amount(0.02, 4, false, Recipe::lineWidthMm), "Not narrower than a layer is high."),
    WALLS("Walls", "lines", new Amount(0, 100, true, Recipe::walls), "Lines around each layer; they carry more than infill does."),
    TOP("Closed at top", "layers", new Amount(0, 1000, true, Recipe::topLayers), "Layers without gaps over the inside."),
    BOTTOM("Closed at bottom", "layers", new Amount(0, 1000, true, Recipe::bottomLayers), "Layers without gaps under the inside."),
    INFILL("Infill", "%", new Amount(0, 100, false, recipe -> recipe.infill() * 100), "How much of the inside is plastic."),
    PATTERN("Pattern", "", choice(InfillPattern.values(), InfillPattern::code, InfillPattern::code, Recipe::pattern), "How the inside is laid."),
    ADHESION("On the bed", "", choice(Adhesion.values(), Adhesion::code, Adhesion::label, Recipe::adhesion), "What holds the part down, or primes the nozzle."),
    SPEED("Speed", "mm/s", new Amount(1, 1000, false, Recipe::speedMmS), "Of whatever has no speed of its own."),
    SUPPORTS("Supports", "", choice(Supports.Where.values(), Supports.Where::code, Supports.Where::label, recipe -> recipe.supports().where()), "What is printed under overhangs and broken off afterwards."),

    SUPPORT_ANGLE("Support beyond", "° from vertical", new Amount(0, 89, false, recipe -> recipe.supports().angleDeg()), "Undersides that lean out farther are supported."),
    OUTER_SPEED("Outer wall speed", "mm/s", new Amount(1, 2000, false, recipe -> recipe.pace().outerWallMmS()), "A slower outer wall looks better."),
    FIRST_LAYER_SPEED("First layer speed", "mm/s", new Amount(1, 2000, false, recipe -> recipe.pace().firstLayerMmS()), "Nothing on the first layer is faster."),
    TRAVEL_SPEED("Travel speed", "mm/s", new Amount(1, 2000, false, recipe -> recipe.pace().travelMmS()), "Without extruding; the printer's own limit holds as well."),
    LAYER_TIME("A layer takes at least", "s", new Amount(0, 600, false, recipe -> recipe.pace().minimumLayerS()), "A layer that would take less is slowed down, so that it can cool."),
    OVERLAP("Inside reaches into the wall", "%", new Amount(0, 100, false, recipe -> recipe.lines().overlap() * 100), "In parts of a line's width."),
    CHANGE_AT("Change filament at", "mm", new Heights(recipe -> recipe.lines().changesMm()), "Heights from the bed; somebody has to be there."),
    PURGE_TOWER("Purged beside it at a change", "mm³", new Amount(0, 5000, false, recipe -> recipe.lines().towerMm3()), "0 where it is purged by hand."),
    INFILL_ANGLE("Infill turned by", "°", new Amount(-360, 360, false, recipe -> recipe.lines().infillAngleDeg()), ""),
    INFILL_LINES("Infill lines side by side", "", new Amount(1, 10, true, recipe -> recipe.lines().infillLines()), "For each line of the pattern."),
    INFILL_WIDTH("Infill lines as wide as", "% of a line", new Amount(50, 200, false, recipe -> recipe.lines().infillWidth() * 100), ""),
    SEAM("Where may a seam show?", "", choice(LineWork.Seam.values(), LineWork.Seam::code, LineWork.Seam::label, recipe -> recipe.lines().seam()), "Where a wall begins and ends leaves a mark."),
    VARIABLE_LAYERS("thinner layers on shallow slopes", "", new Flag(recipe -> recipe.lines().variableLayers()), ""),
    THIN_LINES("single lines where it is too thin for two", "", new Flag(recipe -> recipe.lines().thinLines()), ""),
    OUTER_FIRST("outer walls before inner ones", "", new Flag(recipe -> recipe.lines().outerFirst()), ""),
    SPIRAL("one wall that rises in a spiral", "", new Flag(recipe -> recipe.lines().spiral()), "");

    /** What kind of value it is, and what a recipe has of it. */
    public sealed interface Kind {

        /** A Double, an Integer, a String, a Boolean or a list of Doubles. */
        Object of(Recipe recipe);

        String spoken(Recipe recipe);
    }

    /**
     * A number from {@code least} to {@code most}, in the field's unit.
     *
     * @param whole whether it counts something
     */
    public record Amount(double least, double most, boolean whole, ToDoubleFunction<Recipe> value) implements Kind {

        @Override
        public Object of(Recipe recipe) {
            double amount = value.applyAsDouble(recipe);
            return whole ? (Object) (int) amount : (Object) amount;
        }

        @Override
        public String spoken(Recipe recipe) {
            return Spoken.number(value.applyAsDouble(recipe));
        }
    }

    /** One of some words. */
    public record Choice(List<Option> options, Function<Recipe, String> value) implements Kind {

        @Override
        public Object of(Recipe recipe) {
            return value.apply(recipe);
        }

        @Override
        public String spoken(Recipe recipe) {
            return options.stream().filter(option -> option.code().equals(value.apply(recipe))).map(Option::label).findFirst().orElseThrow();
        }
    }

    public record Option(String code, String label) {
    }

    public record Flag(Predicate<Recipe> value) implements Kind {

        @Override
        public Object of(Recipe recipe) {
            return value.test(recipe);
        }

        @Override
        public String spoken(Recipe recipe) {
            return value.test(recipe) ? "yes" : "no";
        }
    }

    /** Any number of heights in mm. */
    public record Heights(Function<Recipe, List<Double>> value) implements Kind {

        @Override
        public Object of(Recipe recipe) {
            return value.apply(recipe);
        }

        @Override
        public String spoken(Recipe recipe) {
            return value.apply(recipe).stream().map(Spoken::number).collect(Collectors.joining(", "));
        }
    }

    private static <E> Choice choice(E[] all, Function<E, String> code, Function<E, String> label, Function<Recipe, E> of) {
        return new Choice(Arrays.stream(all).map(each -> new Option(code.apply(each), label.apply(each))).toList(), recipe -> code.apply(of.apply(recipe)));
    }

    private final String label;
    private final String unit;
    private final Kind kind;
    private final String help;

    RecipeField(String label, String unit, Kind kind, String help) {
        this.label = label;
        this.unit = unit;
        this.kind = kind;
        this.help = help;
    }

    public String label() {
        return label;
    }

    /** As it is written after the number; may be empty. */
    public String unit() {
        return unit;
    }

    public Kind kind() {
        return kind;
    }

    /** A sentence on what it does; may be empty. */
    public String help() {
        return help;
    }

    /** Whether it is seldom set. */
    public boolean fine() {
        return ordinal() >= SUPPORT_ANGLE.ordinal();
    }

    /** In the shell: "layer-height". */
    public String option() {
        return name().toLowerCase(Locale.ROOT).replace('_', '-');
    }

    /** In forms: "layerHeight". */
    public String formName() {
        return Arrays.stream(option().split("-")).map(word -> Character.toUpperCase(word.charAt(0)) + word.substring(1))
                .collect(Collectors.collectingAndThen(Collectors.joining(), joined -> Character.toLowerCase(joined.charAt(0)) + joined.substring(1)));
    }

    /** In JSON, with its unit: "layer_height_mm"; percentages are shares there and have none. */
    public String jsonName() {
        return name().toLowerCase(Locale.ROOT) + switch (unit) {
            case "mm" -> "_mm";
            case "mm/s" -> "_mm_s";
            case "mm³" -> "_mm3";
            case "s" -> "_s";
            case "°", "° from vertical" -> "_deg";
            default -> "";
        };
    }

    /** What a recipe has: a Double, an Integer, a String, a Boolean or a list of Doubles. */
    public Object of(Recipe recipe) {
        return kind.of(recipe);
    }

    /** The same for JSON. */
    public Object json(Recipe recipe) {
        return unit.startsWith("%") ? (double) of(recipe) / 100 : of(recipe);
    }

    /** "0.2 mm", "from the bed only". */
    public String spoken(Recipe recipe) {
        String value = kind.spoken(recipe);
        return unit.isEmpty() || value.isEmpty() ? value : value + (unit.startsWith("°") ? "" : " ") + unit;
    }

    /** @throws OutOfRange when a number lies outside of its range */
    void check(double value) {
        Amount amount = (Amount) kind;
        OutOfRange.check(label, value, amount.least(), amount.most(), amount.whole() ? "" : unit);
    }
}
