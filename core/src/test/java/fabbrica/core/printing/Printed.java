package fabbrica.core.printing;

import fabbrica.core.bed.BedFit;
import fabbrica.core.estimate.Estimate;
import fabbrica.core.gcode.GcodeFile;
import fabbrica.core.mesh.model.Bounds;
import fabbrica.core.mesh.model.Mesh;
import fabbrica.core.mesh.model.Rotation;
import fabbrica.core.motion.Motion;
import fabbrica.core.recipe.BuiltIn;
import fabbrica.core.recipe.Part;
import fabbrica.core.recipe.Plate;
import fabbrica.core.recipe.Printer;
import fabbrica.core.recipe.Recipe;
import fabbrica.core.toolpath.Detours;
import fabbrica.core.toolpath.Toolpath;
import fabbrica.core.trade.Way;
import fabbrica.core.units.Progress;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.function.Function;

/** Toolpaths and shapes worked out in PLA, for tests that begin with those. */
public final class Printed {

    private Printed() {
    }

    public static Estimate estimate(Toolpath toolpath, Recipe recipe, Printer printer) {
        return Estimate.of(toolpath, Motion.of(toolpath, recipe, printer, Progress.IGNORED), recipe, printer, BuiltIn.PLA);
    }

    public static GcodeFile file(Toolpath toolpath, Recipe recipe, Printer printer, double dx, double dy) {
        Toolpath led = Detours.of(toolpath, printer.bed(), dx, dy);
        return new GcodeFile(led, Motion.of(led, recipe, printer, Progress.IGNORED), recipe, printer, BuiltIn.PLA, dx, dy, List.of());
    }

    /** Of a part that lies where its fit says. */
    public static GcodeFile file(Toolpath toolpath, Recipe recipe, Printer printer, Bounds part, BedFit fit) {
        return file(toolpath, recipe, printer, fit.x() - (part.minX() + part.maxX()) / 2, fit.y() - (part.minY() + part.maxY()) / 2);
    }

    public static Part part(String name) {
        return new Part(name, 1, Rotation.NONE);
    }

    public static PrintShop shop(Map<String, Mesh> meshes) {
        return new PrintShop(part -> meshes.get(part.sha256()).scaled(part.factor()).turned(part.rotation()), shelf(), shelf(), shelf(), shelf());
    }

    public static Function<Way, Estimate> ways(Mesh mesh, Rotation best) {
        PrintShop shop = shop(Map.of("it", mesh));
        return way -> shop.estimate(Plate.of(part("it").turned(way.turned() ? best : Rotation.NONE).scaled(way.scale()),
                new Plate.Place(0, 0, 0), way.recipe()), way.printer(), BuiltIn.PLA, Progress.IGNORED);
    }

    private static <K, V> PrintShop.Shelf<K, V> shelf() {
        Map<K, V> kept = new HashMap<>();
        return (key, make) -> {
            V known = kept.get(key);
            V value = known == null ? make.apply(key) : known;
            kept.put(key, value);
            return value;
        };
    }
}
