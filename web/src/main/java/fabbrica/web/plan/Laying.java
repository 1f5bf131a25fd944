package fabbrica.web.plan;

import com.github.benmanes.caffeine.cache.Cache;
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
import java.util.List;
import org.springframework.stereotype.Component;

/** Lays copies out on plates, and says whether they can be printed where they lie. */
@Component
public class Laying {

    private final Meshes meshes;
    private final Cache<Asked, Nester> laid = Caches.of(300).build();

    Laying(Meshes meshes) {
        this.meshes = meshes;
    }

    private record Asked(List<Wanted> wanted, Recipe recipe, Printer printer, Sequence sequence) {
    }

    /** Several copies, on as many plates as they take. */
    public Nester lay(List<Wanted> wanted, Recipe recipe, Printer printer, Sequence sequence) {
        // Speeds do not matter for where things lie.
        return laid.get(new Asked(wanted, recipe.geometry(), printer, sequence), key -> Nester.of(wanted, recipe, printer, sequence,
                meshes::mesh)).with(recipe);
    }

    public BedFit fit(Part part, Recipe recipe, Printer printer) {
        return BedFit.of(meshes.footprint(part), printer.freeBed(), recipe.allowance());
    }

    /** One copy where it fits best; in the middle of nowhere when it does not. */
    public Plate one(Part part, BedFit fit, Recipe recipe) {
        return Plate.of(part, new Place(fit.x(), fit.y(), fit.rotationDeg()), recipe);
    }

    /** What is wrong with how a plate is laid on a printer; one copy may also be turned about. */
    public Layout layout(Plate plate, Printer printer) {
        return Layout.of(plate.copies().stream().map(copy -> meshes.outline(copy.part()).placed(copy.place().xMm(), copy.place().yMm(),
                copy.place().turnDeg())).toList(), printer.freeBed(), Nester.room(plate.recipe()),
                plate.sequence() == Sequence.ONE_BY_ONE ? Clearance.USUAL : null);
    }
}
