package fabbrica.web.plan;

import fabbrica.core.estimate.Estimate;
import fabbrica.core.recipe.Material;
import fabbrica.core.recipe.Plate;
import fabbrica.core.recipe.Printer;
import fabbrica.core.units.Spoken;
import fabbrica.web.platform.CoreVersion;
import fabbrica.web.platform.Refusal;
import fabbrica.web.platform.Seen;
import fabbrica.web.platform.Shop;
import fabbrica.web.platform.storage.Sha256;
import fabbrica.web.stores.Inventory;
import fabbrica.web.stores.StockPrinter;
import fabbrica.web.stores.StockSpool;
import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.util.ArrayList;
import java.util.HexFormat;
import java.util.List;
import org.springframework.stereotype.Component;

/** The files of plates for their printers. */
@Component
public class PlateFiles {

    private final Plates plates;
    private final Planning planning;
    private final Inventory inventory;
    private final Shop shop;

    PlateFiles(Plates plates, Planning planning, Inventory inventory, Shop shop) {
        this.plates = plates;
        this.planning = planning;
        this.inventory = inventory;
        this.shop = shop;
    }

    /** @param name under which a person finds it again */
    public record PlateFile(String name, byte[] content) {
    }

    /**
     * Which one is handed out is kept with the plate.
     *
     * @throws Refusal as long as anything stops it
     */
    public PlateFile of(LaidPlate laid) throws IOException {
        StockPrinter stock = inventory.printer(laid.plan().printerId()).orElseThrow();
        StockSpool spool = planning.spool(laid.plan().entry()).orElseThrow(() -> new Refusal("Choose a spool first."));
        planning.settle(plates.bench(laid), laid.plan(), stock, spool, List.of(laid.plate()), plates.promisedBut(laid));
        byte[] content = content(laid);
        plates.handedOutFile(laid.id(), HexFormat.of().formatHex(Sha256.digest().digest(content)));
        return new PlateFile(laid.fileName(stock.printer()), content);
    }

    /** As it would be handed out, whether anything stops it or not. */
    public byte[] content(LaidPlate laid) throws IOException {
        return content(request(laid), laid.tickets().stream().map(ticket -> "Ticket %d".formatted(ticket)).toList());
    }

    /** What a plate's file is made from. */
    private record Origin(Plate plate, Printer printer, Material material) {
    }

    /** Another one once the plate's file would be another. */
    public String mark(LaidPlate laid) {
        Shop.Request request = request(laid);
        return Seen.of(new Origin(request.plate(), request.printer(), request.material()));
    }

    private Shop.Request request(LaidPlate laid) {
        StockSpool spool = planning.spool(laid.plan().entry()).orElseThrow();
        return new Shop.Request(laid.plate(), laid.plan().on(inventory.printer(laid.plan().printerId()).orElseThrow().printer()), inventory.material(spool.spool().materialId()).orElseThrow());
    }

    /** @param header lines it begins with */
    byte[] content(Shop.Request request, List<String> header) throws IOException {
        Estimate estimate = shop.await(request);
        List<String> lines = new ArrayList<>(header);
        lines.addAll(List.of("printer: " + request.printer().name(), "estimate: %s, %s".formatted(
                Spoken.duration(estimate.totalSeconds()), Spoken.grams(estimate.grams())), "core version: " + CoreVersion.current()));
        ByteArrayOutputStream whole = new ByteArrayOutputStream(1 << 20);
        shop.write(request, lines, whole);
        return whole.toByteArray();
    }
}
