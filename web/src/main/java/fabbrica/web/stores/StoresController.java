package fabbrica.web.stores;

import static fabbrica.web.stores.StoresForms.number;

import fabbrica.core.schedule.Calendar;
import java.security.Principal;
import java.util.List;
import java.util.NoSuchElementException;
import java.util.stream.Collectors;
import org.springframework.stereotype.Controller;
import org.springframework.ui.Model;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;

/** The Stores: what there is. */
@Controller
class StoresController {

    private final Inventory inventory;
    private final Spools spools;
    private final Maintenance maintenance;
    private final Disk disk;

    StoresController(Inventory inventory, Spools spools, Maintenance maintenance, Disk disk) {
        this.inventory = inventory;
        this.spools = spools;
        this.maintenance = maintenance;
        this.disk = disk;
    }

    @GetMapping("/stores")
    String stores(Model page) {
        List<StockPrinter> printers = inventory.printers();
        Calendar calendar = inventory.calendar();
        page.addAttribute("printers", printers);
        page.addAttribute("printerNames", printers.stream().collect(Collectors.toMap(StockPrinter::id, StockPrinter::name)));
        page.addAttribute("hours", maintenance.hours());
        page.addAttribute("due", maintenance.due().stream().filter(due -> due.standing() != MaintenanceTask.Standing.LATER).toList());
        page.addAttribute("nozzles", inventory.nozzles());
        page.addAttribute("nozzleHours", inventory.nozzleHours());
        page.addAttribute("materials", inventory.materials());
        page.addAttribute("spools", spools.all());
        page.addAttribute("lab", inventory.lab());
        page.addAttribute("open", CalendarText.spoken(calendar));
        return "stores/stores";
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
            case "spools" -> spools.remove(number(id), who.getName());
            default -> throw new NoSuchElementException();
        }
        return StoresForms.BACK;
    }
}
