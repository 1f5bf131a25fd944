package fabbrica.web.plan;

import com.github.benmanes.caffeine.cache.Cache;
import fabbrica.core.bed.BedFit;
import fabbrica.core.bed.Footprint;
import fabbrica.core.estimate.Estimate;
import fabbrica.core.gcode.GcodeFile;
import fabbrica.core.judge.FirstPrint;
import fabbrica.core.mesh.model.Mesh;
import fabbrica.core.mesh.model.Rotation;
import fabbrica.core.mesh.model.Shapes;
import fabbrica.core.printing.PrintShop;
import fabbrica.core.printing.PrintShop.Shelf;
import fabbrica.core.recipe.Material;
import fabbrica.core.recipe.Part;
import fabbrica.core.recipe.Plate;
import fabbrica.core.recipe.Printer;
import fabbrica.core.recipe.Recipe;
import fabbrica.core.units.Progress;
import fabbrica.web.platform.Caches;
import fabbrica.web.stores.StockPrinter;
import java.util.List;
import org.springframework.stereotype.Component;

/** The cube by which a printer is checked: the everyday print, in the middle of its bed. */
@Component
public class FirstPrints {

    private static final Mesh CUBE = Shapes.box(FirstPrint.SIDE_MM, FirstPrint.SIDE_MM, FirstPrint.SIDE_MM);

    private final PrintShop shop = new PrintShop(part -> CUBE, Shelf.empty(), Shelf.empty(), Shelf.empty(), Shelf.empty());
    private final Cache<Cube, Estimate> estimates = Caches.of(50).build();

    private record Cube(Plate plate, Printer printer, Material material) {

        static Cube on(StockPrinter stock, Material material) {
            Recipe recipe = Planning.everyday(stock);
            BedFit fit = BedFit.of(Footprint.of(CUBE), stock.printer().freeBed(), recipe.allowance());
            return new Cube(Plate.of(new Part("", 1, Rotation.NONE), new Plate.Place(fit.x(), fit.y(), fit.rotationDeg()), recipe), stock.printer(), material);
        }
    }

    /** What the printer's figures say that it takes. */
    public Estimate estimate(StockPrinter printer, Material material) {
        return estimates.get(Cube.on(printer, material), cube -> shop.estimate(cube.plate(), cube.printer(), cube.material(), Progress.IGNORED));
    }

    public GcodeFile file(StockPrinter printer, Material material) {
        Cube cube = Cube.on(printer, material);
        return shop.file(cube.plate(), cube.printer(), cube.material(), List.of("First print of " + printer.name()), Progress.IGNORED);
    }
}
