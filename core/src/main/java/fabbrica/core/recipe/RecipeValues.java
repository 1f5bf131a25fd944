package fabbrica.core.recipe;

import fabbrica.core.units.OutOfRange;
import java.util.EnumMap;
import java.util.List;
import java.util.Map;
import java.util.NoSuchElementException;
import java.util.function.Predicate;

/** Values of a recipe by their fields, as a form or the shell gives them. Of fine fields those that are not given are as usual. */
public final class RecipeValues {

    private final Map<RecipeField, Object> values = new EnumMap<>(RecipeField.class);

    private RecipeValues(Map<RecipeField, Object> values) {
        this.values.putAll(values);
    }

    public static RecipeValues none() {
        return new RecipeValues(Map.of());
    }

    /** All values of a recipe. */
    public static RecipeValues of(Recipe recipe) {
        return of(recipe, field -> true);
    }

    /** The values of a recipe that are not fine. */
    public static RecipeValues plain(Recipe recipe) {
        return of(recipe, field -> !field.fine());
    }

    private static RecipeValues of(Recipe recipe, Predicate<RecipeField> wanted) {
        RecipeValues values = none();
        for (RecipeField field : RecipeField.values()) {
            if (wanted.test(field)) {
                values.values.put(field, field.of(recipe));
            }
        }
        return values;
    }

    /** @param value of the type that the field has of a recipe */
    public RecipeValues with(RecipeField field, Object value) {
        RecipeValues with = new RecipeValues(values);
        with.values.put(field, value);
        return with;
    }

    /**
     * @param boxes in which other values hold
     * @throws OutOfRange             with the sentence for what cannot be used
     * @throws NoSuchElementException when a word is none of its field's
     */
    public Recipe recipe(List<Zone> boxes) {
        double speed = number(RecipeField.SPEED, Double.NaN);
        RecipeField.SPEED.check(speed);
        Pace pace = Pace.usual(speed);
        LineWork lines = LineWork.USUAL;
        return new Recipe(number(RecipeField.LAYER_HEIGHT, Double.NaN), number(RecipeField.FIRST_LAYER_HEIGHT, Double.NaN),
                number(RecipeField.LINE_WIDTH, Double.NaN), (int) number(RecipeField.WALLS, Double.NaN), (int) number(RecipeField.TOP, Double.NaN),
                (int) number(RecipeField.BOTTOM, Double.NaN), number(RecipeField.INFILL, Double.NaN) / 100,
                InfillPattern.ofCode(word(RecipeField.PATTERN)).orElseThrow(), Adhesion.ofCode(word(RecipeField.ADHESION)).orElseThrow(), speed,
                Supports.of(Supports.Where.ofCode(word(RecipeField.SUPPORTS)).orElseThrow())
                        .withAngle(number(RecipeField.SUPPORT_ANGLE, Supports.NONE.angleDeg())),
                pace.withOuterWall(number(RecipeField.OUTER_SPEED, pace.outerWallMmS()))
                        .withFirstLayer(number(RecipeField.FIRST_LAYER_SPEED, pace.firstLayerMmS()))
                        .withTravel(number(RecipeField.TRAVEL_SPEED, pace.travelMmS()))
                        .withMinimumLayer(number(RecipeField.LAYER_TIME, pace.minimumLayerS())),
                new LineWork(values.containsKey(RecipeField.SEAM) ? LineWork.Seam.ofCode(word(RecipeField.SEAM)).orElseThrow() : lines.seam(),
                        flag(RecipeField.OUTER_FIRST, lines.outerFirst()), flag(RecipeField.SPIRAL, lines.spiral()),
                        flag(RecipeField.THIN_LINES, lines.thinLines()), number(RecipeField.INFILL_ANGLE, lines.infillAngleDeg()),
                        (int) number(RecipeField.INFILL_LINES, lines.infillLines()), number(RecipeField.INFILL_WIDTH, lines.infillWidth() * 100) / 100,
                        number(RecipeField.OVERLAP, lines.overlap() * 100) / 100, flag(RecipeField.VARIABLE_LAYERS, lines.variableLayers()),
                        heights(), number(RecipeField.PURGE_TOWER, lines.towerMm3()), boxes));
    }

    private double number(RecipeField field, double usual) {
        return values.get(field) instanceof Number number ? number.doubleValue() : usual;
    }

    private String word(RecipeField field) {
        return String.valueOf(values.get(field));
    }

    private boolean flag(RecipeField field, boolean usual) {
        return values.get(field) instanceof Boolean flag ? flag : usual;
    }

    private List<Double> heights() {
        return values.get(RecipeField.CHANGE_AT) instanceof List<?> heights ? heights.stream().map(Double.class::cast).toList() : List.of();
    }
}
