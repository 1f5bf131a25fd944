package fabbrica.web.plan;

import fabbrica.core.recipe.Recipe;
import fabbrica.core.recipe.RecipeField;
import fabbrica.core.recipe.RecipeValues;
import fabbrica.core.recipe.StartingPoint;
import fabbrica.core.recipe.Zone;
import fabbrica.core.units.Spoken;
import fabbrica.web.platform.FormValues;
import java.util.Arrays;
import java.util.List;
import java.util.Optional;
import java.util.stream.Collectors;
import org.springframework.util.LinkedMultiValueMap;
import org.springframework.util.MultiValueMap;

/** A plan as its form holds it. */
final class PlanForm {

    private PlanForm() {
    }

    /** Nothing when a value cannot be used; the form then has the sentence. */
    static Optional<PlanEntry> read(FormValues form) {
        StartingPoint start = start(form);
        Long spool = form.text("spool").isEmpty() ? null : Long.valueOf(form.count("spool", "Spool"));
        RecipeValues values = RecipeValues.none();
        // A form without the fine fields means the usual.
        boolean fine = !form.text(RecipeField.SUPPORT_ANGLE.formName()).isEmpty();
        for (RecipeField field : RecipeField.values()) {
            if (fine || !field.fine()) {
                values = values.with(field, given(field, form));
            }
        }
        List<Zone> boxes = BoxFields.read(form);
        RecipeValues all = values;
        return form.made(() -> all.recipe(boxes)).map(recipe -> new PlanEntry(start, recipe, form.text("printer"), spool, form.flag("fresh")));
    }

    static StartingPoint start(FormValues form) {
        return StartingPoint.ofCode(form.text("start")).orElse(StartingPoint.DAILY_BREAD);
    }

    /** Puts another recipe into a form; its boxes stay. */
    static void fill(MultiValueMap<String, String> values, Recipe recipe) {
        for (RecipeField field : RecipeField.values()) {
            values.remove(field.formName());
        }
        values.putAll(values(recipe));
    }

    private static Object given(RecipeField field, FormValues form) {
        String name = field.formName();
        return switch (field.kind()) {
            case RecipeField.Amount amount when amount.whole() -> form.count(name, field.label());
            case RecipeField.Amount amount -> form.number(name, field.label());
            case RecipeField.Choice choice -> form.text(name);
            case RecipeField.Flag flag -> form.flag(name);
            case RecipeField.Heights heights -> heights(form, name, field.label());
        };
    }

    private static List<Double> heights(FormValues form, String name, String label) {
        try {
            return Arrays.stream(form.text(name).split("[\\s;]+")).filter(word -> !word.isEmpty())
                    .map(word -> Double.valueOf(word.replace(',', '.'))).toList();
        } catch (NumberFormatException e) {
            form.problem("“%s” takes heights in mm with spaces between, such as 4 12.5.".formatted(label));
            return List.of();
        }
    }

    /** What stands in the form for a recipe. */
    static MultiValueMap<String, String> values(Recipe recipe) {
        MultiValueMap<String, String> values = new LinkedMultiValueMap<>();
        for (RecipeField field : RecipeField.values()) {
            String text = text(field.of(recipe));
            if (!text.isEmpty()) {
                values.set(field.formName(), text);
            }
        }
        BoxFields.put(recipe.lines().zones(), values);
        return values;
    }

    /** Of a box to tick, "on" or nothing. */
    private static String text(Object value) {
        return switch (value) {
            case Boolean flag -> flag ? "on" : "";
            case Number number -> Spoken.number(number.doubleValue(), 3);
            case List<?> heights -> heights.stream().map(PlanForm::text).collect(Collectors.joining(" "));
            default -> value.toString();
        };
    }
}
