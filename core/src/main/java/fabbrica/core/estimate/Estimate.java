package fabbrica.core.estimate;

import fabbrica.core.mesh.model.Mesh;
import fabbrica.core.motion.Motion;
import fabbrica.core.recipe.Material;
import fabbrica.core.recipe.Preparation;
import fabbrica.core.recipe.Printer;
import fabbrica.core.recipe.Recipe;
import fabbrica.core.toolpath.Progress;
import fabbrica.core.toolpath.Toolpath;
import java.util.Collections;
import java.util.EnumMap;
import java.util.Map;

/**
 * Time and filament of printing one copy of a part, without supports.
 *
 * @param secondsByPhase only phases that take time
 * @param filamentMm3    plastic through the nozzle, purge included
 * @param filamentMm     the same as length of filament
 */
public record Estimate(Map<Phase, Double> secondsByPhase, double filamentMm3, double filamentMm, double grams,
                       int layers) {

    public Estimate {
        secondsByPhase = Collections.unmodifiableMap(new EnumMap<>(secondsByPhase));
    }

    /**
     * @param mesh in millimetres, as it will lie on the bed
     * @throws java.util.concurrent.CancellationException when {@code progress} says so
     */
    public static Estimate of(Mesh mesh, Recipe recipe, Printer printer, Material material, Progress progress) {
        return of(Toolpath.of(mesh, recipe, progress), recipe, printer, material, progress);
    }

    /** The same for a toolpath that is already laid: printers that share a recipe share it. */
    public static Estimate of(Toolpath toolpath, Recipe recipe, Printer printer, Material material,
                              Progress progress) {
        Motion motion = Motion.of(toolpath, recipe, printer.kinematics(), progress);
        Preparation preparation = printer.preparation();
        Map<Phase, Double> seconds = new EnumMap<>(Phase.class);
        seconds.put(Phase.HEAT_BED, preparation.bedHeatingS(material));
        seconds.put(Phase.HEAT_NOZZLE, preparation.nozzleHeatingS(material));
        seconds.put(Phase.HOME, preparation.homingS());
        seconds.put(Phase.LEVEL, preparation.levellingS());
        seconds.put(Phase.PURGE, preparation.purgeS());
        motion.secondsByType().forEach((type, s) -> seconds.put(Phase.valueOf(type.name()), s));
        seconds.put(Phase.TRAVEL, motion.travelS());
        seconds.put(Phase.RETRACTION, motion.retractionS());
        seconds.values().removeIf(s -> s <= 0);
        double mm3 = motion.mm3() + preparation.purgeMm3();
        return new Estimate(seconds, mm3, mm3 / printer.filamentAreaMm2(), material.grams(mm3),
                toolpath.layers().size());
    }

    public double totalSeconds() {
        return prepareSeconds() + printSeconds();
    }

    public double prepareSeconds() {
        return sum(true);
    }

    public double printSeconds() {
        return sum(false);
    }

    private double sum(boolean preparation) {
        return secondsByPhase.entrySet().stream().filter(entry -> entry.getKey().isPreparation() == preparation)
                .mapToDouble(Map.Entry::getValue).sum();
    }
}
