package fabbrica.core.printing;

import fabbrica.core.bed.Allowance;
import fabbrica.core.bed.Bed;
import fabbrica.core.bed.Clearance;
import fabbrica.core.bed.Layout;
import fabbrica.core.bed.Nesting;
import fabbrica.core.bed.Nesting.Placement;
import fabbrica.core.mesh.model.Bounds;
import fabbrica.core.mesh.model.Mesh;
import fabbrica.core.recipe.Adhesion;
import fabbrica.core.recipe.Part;
import fabbrica.core.recipe.Plate;
import fabbrica.core.recipe.Plate.Copy;
import fabbrica.core.recipe.Plate.Place;
import fabbrica.core.recipe.Plate.Sequence;
import fabbrica.core.recipe.Printer;
import fabbrica.core.recipe.Recipe;
import java.util.ArrayList;
import java.util.List;
import java.util.function.Function;

/**
 * Lays copies of parts out on as many plates as they take.
 *
 * @param plates  the fullest first
 * @param tooMany how many copies of each part fit on no plate, in the order they were asked for
 */
public record Nester(List<Plate> plates, List<Integer> tooMany) {

    /** Between copies that are printed layer by layer (common practice, no source). */
    public static final double BETWEEN_MM = 3;

    /** @param copies of the part that are wanted */
    public record Wanted(Part part, int copies) {
    }

    /** @param meshes gives a part in millimetres, as it is to lie */
    public static Nester of(List<Wanted> wanted, Recipe recipe, Printer printer, Sequence sequence, Function<Part, Mesh> meshes) {
        Layout.Room room = room(recipe);
        double apart = sequence == Sequence.ONE_BY_ONE ? Clearance.USUAL.headRadiusMm() : BETWEEN_MM;
        Bed bed = within(printer.freeBed(), room.edgeMm());
        List<Nesting.Item> items = wanted.stream().map(each -> new Nesting.Item(meshes.apply(each.part()), room.around(), each.copies()))
                .toList();
        Nesting nesting = Nesting.of(items, bed, apart);
        List<Plate> plates = new ArrayList<>();
        for (Nesting.Sheet sheet : nesting.sheets()) {
            List<Copy> copies = new ArrayList<>();
            for (Placement placement : sheet.placements()) {
                copies.add(new Copy(wanted.get(placement.item()).part(), place(items.get(placement.item()).mesh(), placement, room.edgeMm())));
            }
            plates.add(new Plate(copies, sequence, recipe));
        }
        return new Nester(List.copyOf(plates), nesting.tooMany());
    }

    /** The same layout printed by a recipe that differs in speed alone. */
    public Nester with(Recipe recipe) {
        return new Nester(plates.stream().map(plate -> plate.with(recipe)).toList(), tooMany);
    }

    /** What a recipe puts around each copy, and around all of them together. */
    public static Layout.Room room(Recipe recipe) {
        boolean skirt = recipe.adhesion() == Adhesion.SKIRT;
        return new Layout.Room(skirt ? Allowance.NONE : recipe.allowance(), skirt ? recipe.allowance().marginMm() : 0);
    }

    private static Place place(Mesh part, Placement placement, double edgeMm) {
        Bounds box = part.turned(placement.rotationDeg()).bounds();
        return new Place((box.minX() + box.maxX()) / 2 + placement.dx() + edgeMm, (box.minY() + box.maxY()) / 2 + placement.dy() + edgeMm,
                placement.rotationDeg());
    }

    /** The bed less an edge all around, its front left corner moved to the origin. */
    private static Bed within(Bed bed, double edgeMm) {
        if (edgeMm == 0) {
            return bed;
        }
        List<Bed.Zone> zones = bed.keepOut().stream().filter(zone -> zone.maxX() > edgeMm && zone.maxY() > edgeMm)
                .map(zone -> new Bed.Zone(zone.minX() - edgeMm, zone.minY() - edgeMm, zone.maxX() - edgeMm, zone.maxY() - edgeMm)).toList();
        return new Bed(Math.max(10, bed.widthMm() - 2 * edgeMm), Math.max(10, bed.depthMm() - 2 * edgeMm), bed.heightMm(), zones);
    }
}
