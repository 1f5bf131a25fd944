package fabbrica.web.platform;

import com.github.benmanes.caffeine.cache.Cache;
import fabbrica.core.estimate.Estimate;
import fabbrica.core.estimate.Portions;
import fabbrica.core.printing.PrintShop;
import fabbrica.core.printing.PrintShop.Print;
import fabbrica.core.recipe.Material;
import fabbrica.core.recipe.Plate;
import fabbrica.core.recipe.Printer;
import fabbrica.core.toolpath.Slices;
import fabbrica.core.toolpath.Toolpath;
import fabbrica.core.toolpath.WalledSlices;
import fabbrica.core.units.Progress;
import jakarta.annotation.PreDestroy;
import java.io.IOException;
import java.io.OutputStream;
import java.util.List;
import java.util.Optional;
import org.springframework.stereotype.Component;

/** Works out plates beside the pages, and keeps what was worked out as long as there is room for it. */
@Component
public class Shop {

    private final Meshes meshes;
    private final SlicedParts sliced;
    private final Cache<PrintShop.Cut, Slices> cuts = Caches.of(6).softValues().build();
    private final Cache<PrintShop.Walled, WalledSlices> walls = Caches.of(6).softValues().build();
    private final Cache<PrintShop.Laid, Toolpath> toolpaths = Caches.of(8).softValues().build();
    private final Cache<PrintShop.Moved, Print> prints = Caches.of(8).softValues().build();
    private final PrintShop shop;
    private final Works<Request, Estimate> works = new Works<>(Caches.of(5000).build(),
            "The estimate could not be worked out for this part. The ticket is safe; try another recipe, or look at the "
                    + "findings first.", this::work);

    Shop(Meshes meshes, SlicedParts sliced) {
        this.meshes = meshes;
        this.sliced = sliced;
        this.shop = new PrintShop(meshes::mesh, cuts::get, walls::get, toolpaths::get, prints::get);
    }

    /** A plate on a printer, of a material. */
    public record Request(Plate plate, Printer printer, Material material) {
    }

    /** Where the estimate stands; starts working on it when nobody has asked before. */
    public Standing<Estimate> ask(Request request) {
        return works.ask(request);
    }

    /** The same for a place on a page: what was asked for there before is no longer wanted. */
    public Standing<Estimate> ask(Request request, String place) {
        return works.ask(request, place);
    }

    /** The estimate, worked out at once on the calling thread unless it is known. */
    public Estimate await(Request request) {
        return works.await(request);
    }

    /** The estimate when it is known; nothing is started. */
    public Optional<Estimate> known(Request request) {
        return works.known(request);
    }

    /** Stops working on a request. */
    public void stop(Request request) {
        works.stop(request);
    }

    public void stop(long jobNumber) {
        works.stop(jobNumber);
    }

    /** The lines of a plate and their motion, laid now unless they are known. */
    public Print print(Plate plate, Printer printer, Progress progress) {
        return shop.print(plate, printer, progress);
    }

    /**
     * Writes the file of a plate for a printer.
     *
     * @param header lines to begin with; a file sliced elsewhere stays as it came
     */
    public void write(Request request, List<String> header, OutputStream out) throws IOException {
        Optional<String> file = sliced.fileOf(request.plate());
        if (file.isPresent()) {
            sliced.write(file.get(), out);
        } else {
            shop.file(request.plate(), request.printer(), request.material(), header, Progress.IGNORED).write(out);
        }
    }

    /** What of a plate is laid for each of its copies. */
    public Portions portions(Plate plate, Printer printer) {
        return sliced.fileOf(plate).isPresent() ? new Portions(List.of(1.0), List.of(1.0)) : shop.portions(plate, printer, meshes::outline, Progress.IGNORED);
    }

    @PreDestroy
    void close() {
        works.close();
    }

    private Estimate work(Request request, Progress progress) {
        return sliced.fileOf(request.plate()).map(file -> Estimate.of(sliced.replay(file, request.printer()), request.printer(), request.material()))
                .orElseGet(() -> shop.estimate(request.plate(), request.printer(), request.material(), progress));
    }
}
