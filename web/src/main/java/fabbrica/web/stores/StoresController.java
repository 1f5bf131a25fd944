package fabbrica.web.stores;

import static fabbrica.web.stores.StoresForms.number;

import java.security.Principal;
import java.util.List;
import java.util.NoSuchElementException;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Controller;
import org.springframework.ui.Model;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestParam;

/** The Stores: what there is. */
@Controller
class StoresController {

    private static final int SPOOLS_A_PAGE = 100;

    private final Inventory inventory;
    private final Spools spools;
    private final Maintenance maintenance;
    private final Disk disk;
    private final Keyholders keyholders;

    StoresController(Inventory inventory, Spools spools, Maintenance maintenance, Disk disk, Keyholders keyholders) {
        this.inventory = inventory;
        this.spools = spools;
        this.maintenance = maintenance;
        this.disk = disk;
        this.keyholders = keyholders;
    }

    @GetMapping("/stores")
    String stores(Model page) {
        List<StockPrinter> printers = inventory.printers();
        page.addAttribute("stores", new StoresPage(inventory.lab(), CalendarText.spoken(inventory.calendar()), spools.shelf(),
                !spools.offShelf(Integer.MAX_VALUE, 1).isEmpty(), printers,
                printers.stream().collect(Collectors.toMap(StockPrinter::id, StockPrinter::name)), maintenance.hours(),
                maintenance.due().stream().filter(due -> due.standing() != MaintenanceTask.Standing.LATER).toList(), inventory.nozzles(),
                inventory.nozzleHours(), inventory.materials(), keyholders.all()));
        return "stores/stores";
    }

    /** Spools that were taken off the shelf, the latest first. */
    @GetMapping("/stores/off-shelf")
    String offShelf(@RequestParam(required = false) @Nullable Integer below, Model page) {
        List<StockSpool> found = spools.offShelf(below == null ? Integer.MAX_VALUE : below, SPOOLS_A_PAGE + 1);
        List<StockSpool> shown = found.subList(0, Math.min(SPOOLS_A_PAGE, found.size()));
        page.addAttribute("off", new StoresPage.OffShelf(shown, inventory.materials(), found.size() > SPOOLS_A_PAGE ? shown.getLast().number() : null));
        return "stores/off-shelf";
    }

    /** Asked for by the page once it is shown; folders grow large. */
    @GetMapping("/stores/disk")
    String disk(Model page) {
        page.addAttribute("disk", disk.now());
        return "stores/disk";
    }

    @PostMapping("/stores/{kind}/{id}/remove")
    String remove(@PathVariable String kind, @PathVariable String id, Principal who) {
        switch (kind) {
            case "printers" -> inventory.removePrinter(id, who.getName());
            case "nozzles" -> inventory.removeNozzle(number(id), who.getName());
            case "materials" -> inventory.removeMaterial(id, who.getName());
            case "keyholders" -> keyholders.remove(number(id), who.getName());
            case "spools" -> spools.remove(number(id), who.getName());
            default -> throw new NoSuchElementException();
        }
        return StoresForms.BACK;
    }
}
