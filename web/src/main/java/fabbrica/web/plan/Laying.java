package fabbrica.web.plan;

import com.github.benmanes.caffeine.cache.Cache;
import fabbrica.core.bed.Bed;
import fabbrica.core.bed.BedFit;
import fabbrica.core.bed.Clearance;
import fabbrica.core.bed.Layout;
import fabbrica.core.printing.Nester;
import fabbrica.core.printing.Nester.Wanted;
import fabbrica.core.recipe.Part;
import fabbrica.core.recipe.Plate;
import fabbrica.core.recipe.Plate.Place;
import fabbrica.core.recipe.Plate.Sequence;
import fabbrica.core.recipe.Printer;
import fabbrica.core.recipe.Recipe;
import fabbrica.web.platform.Caches;
import fabbrica.web.platform.Meshes;
import fabbrica.web.platform.SlicedParts;
import java.util.Collections;
import java.util.List;
import org.springframework.stereotype.Component;

/** Lays copies out on plates, and says whether they can be printed where they lie. */
@Component
public class Laying {

    private final Meshes meshes;
    private final SlicedParts sliced;
    private final Cache<Asked, Nester> laid = Caches.of(300).build();

    Laying(Meshes meshes, SlicedParts sliced) {
        this.meshes = meshes;
        this.sliced = sliced;
    }

    /** All that where things lie depends on: neither speeds nor which of several printers with the same bed. */
    private record Asked(List<Wanted> wanted, Layout.Room room, Bed bed, Sequence sequence) {
    }

    /** Copies of one part on as many plates as they take: one where it fits best, several where they are nested, a file sliced elsewhere as it is. */
    public Nester lay(Part part, Recipe recipe, Printer printer, int copies) {
        if (copies == 1 || sliced.isOne(part)) {
            BedFit fit = fit(part, recipe, printer);
            return new Nester(fit.fits() ? Collections.nCopies(copies, one(part, fit, recipe)) : List.of(), List.of(fit.fits() ? 0 : copies));
        }
        return lay(List.of(new Wanted(part, copies)), recipe, printer, recipe.lines().spiral() ? Sequence.ONE_BY_ONE : Sequence.TOGETHER);
    }

    /** Several copies, on as many plates as they take. */
    public Nester lay(List<Wanted> wanted, Recipe recipe, Printer printer, Sequence sequence) {
        return laid.get(new Asked(wanted, Nester.room(recipe), printer.freeBed(), sequence), key -> Nester.of(wanted, recipe, printer, sequence, meshes::mesh)).with(recipe);
    }

    public BedFit fit(Part part, Recipe recipe, Printer printer) {
        return meshes.fit(part, printer, recipe.allowance());
    }

    /** One copy where it fits best; in the middle of nowhere when it does not. */
    public Plate one(Part part, BedFit fit, Recipe recipe) {
        return Plate.of(part, new Place(fit.x(), fit.y(), fit.rotationDeg()), recipe);
    }

    /** Whether it lies as its file says, which was sliced elsewhere. */
    public boolean isFixed(Plate plate) {
        return sliced.fileOf(plate).isPresent();
    }

    /** What is wrong with how a plate is laid on a printer; one copy may also be turned about. */
    public Layout layout(Plate plate, Printer printer) {
        if (isFixed(plate)) {
            return new Layout(List.of(), Double.POSITIVE_INFINITY);
        }
        return Layout.of(plate.copies().stream().map(copy -> meshes.outline(copy.part()).placed(copy.place().xMm(), copy.place().yMm(),
                copy.place().turnDeg())).toList(), printer.freeBed(), Nester.room(plate.recipe()),
                plate.sequence() == Sequence.ONE_BY_ONE ? Clearance.USUAL : null);
    }
}
