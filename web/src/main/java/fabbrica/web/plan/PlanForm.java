package fabbrica.web.plan;

import fabbrica.core.recipe.Adhesion;
import fabbrica.core.recipe.InfillPattern;
import fabbrica.core.recipe.LineWork;
import fabbrica.core.recipe.Pace;
import fabbrica.core.recipe.Recipe;
import fabbrica.core.recipe.StartingPoint;
import fabbrica.core.recipe.Supports;
import fabbrica.core.recipe.Zone;
import fabbrica.core.units.Spoken;
import fabbrica.web.platform.FormValues;
import java.util.Arrays;
import java.util.List;
import java.util.NoSuchElementException;
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
        double layer = form.number("layerHeight", "Layer height");
        double first = form.number("firstLayer", "First layer");
        double width = form.number("lineWidth", "Line width");
        int walls = form.count("walls", "Walls");
        int top = form.count("top", "Closed layers at the top");
        int bottom = form.count("bottom", "Closed layers at the bottom");
        double infill = form.number("infill", "Infill");
        double speed = form.number("speed", "Speed");
        StartingPoint start = StartingPoint.ofCode(form.text("start")).orElse(StartingPoint.DAILY_BREAD);
        Long spool = form.text("spool").isEmpty() ? null : Long.valueOf(form.count("spool", "Spool"));
        InfillPattern pattern = InfillPattern.ofCode(form.text("pattern")).orElseThrow(NoSuchElementException::new);
        Adhesion adhesion = Adhesion.ofCode(form.text("adhesion")).orElseThrow(NoSuchElementException::new);
        Optional<Recipe> recipe = form.made(() -> new Recipe(layer, first, width, walls, top, bottom, infill / 100,
                pattern, adhesion, speed));
        return recipe.flatMap(plain -> finer(plain, form))
                .map(finer -> new PlanEntry(start, finer, form.text("printer"), spool, form.flag("fresh")));
    }

    /** What stands under “More”; a form without these fields means the usual. */
    private static Optional<Recipe> finer(Recipe recipe, FormValues form) {
        if (form.text("supports").isEmpty()) {
            return Optional.of(recipe);
        }
        Supports.Where where = Supports.Where.ofCode(form.text("supports")).orElseThrow(NoSuchElementException::new);
        double angle = form.number("supportAngle", "Support angle");
        double outer = form.number("outerSpeed", "Outer wall speed");
        double firstSpeed = form.number("firstLayerSpeed", "First layer speed");
        double layerTime = form.number("layerTime", "Least time of a layer");
        double overlap = form.number("overlap", "Overlap");
        LineWork.Seam seam = LineWork.Seam.valueOf(form.text("seam"));
        double infillAngle = form.number("infillAngle", "Infill angle");
        int infillLines = form.count("infillLines", "Infill lines side by side");
        double infillWidth = form.number("infillWidth", "Infill line width");
        double tower = form.number("tower", "Purge tower");
        List<Double> changes = changes(form);
        List<Zone> boxes = BoxFields.read(form);
        return form.made(() -> {
            Pace pace = recipe.pace().withOuterWall(outer).withFirstLayer(firstSpeed).withMinimumLayer(layerTime);
            LineWork lines = new LineWork(seam, form.flag("outerFirst"), form.flag("spiral"), form.flag("thinLines"),
                    infillAngle, infillLines, infillWidth / 100, overlap / 100, form.flag("variableLayers"), changes, tower,
                    boxes);
            return recipe.with(Supports.of(where).withAngle(angle)).with(pace).with(lines);
        });
    }

    private static List<Double> changes(FormValues form) {
        try {
            return Arrays.stream(form.text("changes").split("[\\s;]+")).filter(word -> !word.isEmpty())
                    .map(word -> Double.valueOf(word.replace(',', '.'))).toList();
        } catch (NumberFormatException e) {
            form.problem("Filament changes are heights in mm with spaces between, such as 4 12.5.");
            return List.of();
        }
    }

    static MultiValueMap<String, String> values(Recipe recipe) {
        MultiValueMap<String, String> values = new LinkedMultiValueMap<>();
        values.set("layerHeight", number(recipe.layerHeightMm()));
        values.set("firstLayer", number(recipe.firstLayerHeightMm()));
        values.set("lineWidth", number(recipe.lineWidthMm()));
        values.set("walls", number(recipe.walls()));
        values.set("top", number(recipe.topLayers()));
        values.set("bottom", number(recipe.bottomLayers()));
        values.set("infill", number(recipe.infill() * 100));
        values.set("pattern", recipe.pattern().code());
        values.set("adhesion", recipe.adhesion().code());
        values.set("speed", number(recipe.speedMmS()));
        values.set("supports", recipe.supports().where().code());
        values.set("supportAngle", number(recipe.supports().angleDeg()));
        values.set("outerSpeed", number(recipe.pace().outerWallMmS()));
        values.set("firstLayerSpeed", number(recipe.pace().firstLayerMmS()));
        values.set("layerTime", number(recipe.pace().minimumLayerS()));
        values.set("overlap", number(recipe.lines().overlap() * 100));
        values.set("seam", recipe.lines().seam().name());
        values.set("changes", recipe.lines().changesMm().stream().map(PlanForm::number).collect(Collectors.joining(" ")));
        values.set("infillAngle", number(recipe.lines().infillAngleDeg()));
        values.set("infillLines", number(recipe.lines().infillLines()));
        values.set("infillWidth", number(recipe.lines().infillWidth() * 100));
        values.set("tower", number(recipe.lines().towerMm3()));
        flag(values, "outerFirst", recipe.lines().outerFirst());
        flag(values, "variableLayers", recipe.lines().variableLayers());
        flag(values, "thinLines", recipe.lines().thinLines());
        flag(values, "spiral", recipe.lines().spiral());
        BoxFields.put(recipe.lines().zones(), values);
        return values;
    }

    private static void flag(MultiValueMap<String, String> values, String name, boolean on) {
        if (on) {
            values.set(name, "on");
        }
    }

    private static String number(double value) {
        return Spoken.number(value, 3);
    }
}
