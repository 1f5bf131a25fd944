package fabbrica.core.printing;

import fabbrica.core.bed.Bed;
import fabbrica.core.bed.Outline;
import fabbrica.core.estimate.Estimate;
import fabbrica.core.estimate.Portions;
import fabbrica.core.gcode.GcodeFile;
import fabbrica.core.mesh.model.Bounds;
import fabbrica.core.mesh.model.Mesh;
import fabbrica.core.mesh.model.Shapes;
import fabbrica.core.motion.Motion;
import fabbrica.core.recipe.Kinematics;
import fabbrica.core.recipe.Material;
import fabbrica.core.recipe.Part;
import fabbrica.core.recipe.Plate;
import fabbrica.core.recipe.Plate.Copy;
import fabbrica.core.recipe.Plate.Place;
import fabbrica.core.recipe.Printer;
import fabbrica.core.recipe.Recipe;
import fabbrica.core.recipe.Zone;
import fabbrica.core.toolpath.Detours;
import fabbrica.core.toolpath.Slices;
import fabbrica.core.toolpath.Toolpath;
import fabbrica.core.toolpath.WalledSlices;
import fabbrica.core.units.Progress;
import java.util.ArrayList;
import java.util.List;
import java.util.function.Function;

/**
 * Works out plates on printers. Plates with the same layers share what was cut, recipes that differ in what they fill with the
 * walls, recipes that differ in speed alone and printers with the same recipe the toolpath, and whoever asks for time, layers or a
 * file the motion. For several threads at once, as far as its shelves are.
 */
public final class PrintShop {

    private final Function<Part, Mesh> meshes;
    private final Shelf<Cut, Slices> cuts;
    private final Shelf<Walled, WalledSlices> walls;
    private final Shelf<Laid, Toolpath> toolpaths;
    private final Shelf<Moved, Print> prints;

    /** Keeps what was made for a while; it is made when nobody has asked for it before. */
    public interface Shelf<K, V> {

        V get(K key, Function<K, V> make);

        /** One on which nothing stays. */
        static <K, V> Shelf<K, V> empty() {
            return (key, make) -> make.apply(key);
        }
    }

    /**
     * A plate worked out on a printer.
     *
     * @param toolpath its travels led around what the bed is to be kept free of
     * @param dx       from the toolpath to the bed, whose front left corner is the origin, mm; so with {@code dy}
     */
    public record Print(Toolpath toolpath, Motion motion, double dx, double dy) {

        private Print at(double otherDx, double otherDy) {
            return new Print(toolpath, motion, otherDx, otherDy);
        }
    }

    /** What decides how a plate is cut. */
    public record Cut(List<Copy> copies, double layerMm, double firstMm, double widthMm) {

        /** The width counts only where layers follow the slope, which the nozzle bounds. */
        static Cut of(List<Copy> copies, Recipe recipe) {
            return new Cut(copies, recipe.layerHeightMm(), recipe.firstLayerHeightMm(),
                    recipe.lines().variableLayers() ? recipe.lineWidthMm() : 0);
        }
    }

    /** What decides where walls are laid. */
    public record Walled(List<Copy> copies, Recipe outside) {
    }

    /** What decides where lines are laid. */
    public record Laid(List<Copy> copies, Plate.Sequence sequence, Recipe geometry, List<Bed.Zone> kept) {
    }

    /** What decides how a machine moves. */
    public record Moved(Laid laid, Recipe recipe, Kinematics kinematics, double filamentMm, List<Bed.Zone> kept) {
    }

    /** @param meshes gives a part in millimetres, as it is to lie */
    public PrintShop(Function<Part, Mesh> meshes, Shelf<Cut, Slices> cuts, Shelf<Walled, WalledSlices> walls,
                     Shelf<Laid, Toolpath> toolpaths, Shelf<Moved, Print> prints) {
        this.meshes = meshes;
        this.cuts = cuts;
        this.walls = walls;
        this.toolpaths = toolpaths;
        this.prints = prints;
    }

    /**
     * A plate on a printer: where lines are laid, and how long it takes.
     *
     * @throws java.util.concurrent.CancellationException when {@code progress} says so
     */
    public Print print(Plate plate, Printer printer, Progress progress) {
        Place first = plate.copies().getFirst().place();
        double dx = first.xMm(), dy = first.yMm();
        List<Copy> copies = plate.copies().stream().map(copy -> new Copy(copy.part(), copy.place().movedBy(-dx, -dy))).toList();
        // One part has room around it for its skirt; several share one, which has to go around what is to be kept free.
        List<Bed.Zone> kept = copies.size() == 1 ? List.of() : moved(printer.freeBed(), -dx, -dy).keepOut();
        Laid laid = new Laid(copies, plate.sequence(), plate.recipe().geometry(), kept);
        List<Bed.Zone> led = moved(printer.bed(), -dx, -dy).keepOut();
        return prints.get(new Moved(laid, plate.recipe(), printer.kinematics(), printer.filamentMm(), led), key -> {
            Toolpath toolpath = Detours.of(toolpath(laid, progress), printer.bed(), dx, dy);
            return new Print(toolpath, Motion.of(toolpath, plate.recipe(), printer, progress), 0, 0);
        }).at(dx, dy);
    }

    /** Seconds, plastic and changes of a plate on a printer. */
    public Estimate estimate(Plate plate, Printer printer, Material material, Progress progress) {
        Print print = print(plate, printer, progress);
        return Estimate.of(print.toolpath(), print.motion(), plate.recipe(), printer, material);
    }

    /** The file of a plate for a printer. */
    public GcodeFile file(Plate plate, Printer printer, Material material, List<String> header, Progress progress) {
        Print print = print(plate, printer, progress);
        return new GcodeFile(print.toolpath(), print.motion(), plate.recipe(), printer, material, print.dx(), print.dy(), header);
    }

    /** What of a plate is laid for each of its copies. */
    public Portions portions(Plate plate, Printer printer, Function<Part, Outline> outlines, Progress progress) {
        Print print = print(plate, printer, progress);
        return Portions.of(print.toolpath(), print.motion(), plate.copies().stream().map(copy -> outlines.apply(copy.part())
                .placed(copy.place().xMm() - print.dx(), copy.place().yMm() - print.dy(), copy.place().turnDeg())).toList());
    }

    private Toolpath toolpath(Laid laid, Progress progress) {
        return toolpaths.get(laid, key -> {
            if (key.sequence == Plate.Sequence.ONE_BY_ONE && key.copies.size() > 1) {
                List<Toolpath> parts = new ArrayList<>();
                for (Copy copy : key.copies) {
                    parts.add(together(List.of(copy), key.geometry, key.kept, progress.pass(parts.size(), key.copies.size())));
                }
                return Toolpath.oneAfterAnother(parts);
            }
            return together(key.copies, key.geometry, key.kept, progress);
        });
    }

    private Toolpath together(List<Copy> copies, Recipe recipe, List<Bed.Zone> kept, Progress progress) {
        WalledSlices walled = walls.get(new Walled(copies, recipe.outside()), key -> WalledSlices.of(cuts.get(Cut.of(copies, recipe),
                cut -> Slices.of(mesh(copies), recipe, progress.pass(0, 3))), recipe, progress.pass(1, 3)));
        return Toolpath.of(walled, placed(copies, recipe), kept, progress.pass(2, 3));
    }

    /** All copies where they lie, their lowest points on one height. */
    private Mesh mesh(List<Copy> copies) {
        Mesh[] placed = copies.stream().map(copy -> placed(meshes.apply(copy.part()), copy.place())).toArray(Mesh[]::new);
        return placed.length == 1 ? placed[0] : Shapes.together(placed);
    }

    /** A part in its place, its lowest point on the bed. */
    public static Mesh placed(Mesh part, Place place) {
        Mesh turned = part.turned(place.turnDeg());
        Bounds box = turned.bounds();
        return turned.moved(place.xMm() - (box.minX() + box.maxX()) / 2, place.yMm() - (box.minY() + box.maxY()) / 2, -box.minZ());
    }

    /** The recipe with its boxes laid over every copy. */
    private Recipe placed(List<Copy> copies, Recipe recipe) {
        if (recipe.lines().zones().isEmpty()) {
            return recipe;
        }
        List<Zone> zones = new ArrayList<>();
        for (Copy copy : copies) {
            Mesh part = meshes.apply(copy.part());
            Bounds box = part.turned(copy.place().turnDeg()).bounds();
            double dx = copy.place().xMm() - (box.minX() + box.maxX()) / 2, dy = copy.place().yMm() - (box.minY() + box.maxY()) / 2;
            recipe.placed(part::bounds, copy.place().turnDeg()).lines().zones().forEach(zone -> zones.add(zone.moved(dx, dy)));
        }
        return recipe.with(recipe.lines().withZones(zones));
    }

    private static Bed moved(Bed bed, double dx, double dy) {
        return new Bed(bed.widthMm(), bed.depthMm(), bed.heightMm(), bed.keepOut().stream().map(zone -> new Bed.Zone(zone.minX() + dx,
                zone.minY() + dy, zone.maxX() + dx, zone.maxY() + dy)).toList());
    }
}
