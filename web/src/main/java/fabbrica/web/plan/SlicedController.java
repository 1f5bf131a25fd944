package fabbrica.web.plan;

import fabbrica.core.recipe.Material;
import fabbrica.core.recipe.Spool;
import fabbrica.web.platform.Refusal;
import fabbrica.web.stores.Inventory;
import fabbrica.web.stores.Spools;
import fabbrica.web.stores.StockSpool;
import fabbrica.web.ticket.Ticket;
import fabbrica.web.ticket.Tickets;
import java.io.IOException;
import java.util.List;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Controller;
import org.springframework.ui.Model;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.multipart.MultipartFile;

/** Files sliced elsewhere: for which printer are they? */
@Controller
class SlicedController {

    private final Tickets tickets;
    private final Planning planning;
    private final SlicedFiles sliced;
    private final Inventory inventory;
    private final Spools spools;

    SlicedController(Tickets tickets, Planning planning, SlicedFiles sliced, Inventory inventory, Spools spools) {
        this.tickets = tickets;
        this.planning = planning;
        this.sliced = sliced;
        this.inventory = inventory;
        this.spools = spools;
    }

    /** A file with what it would do on each printer. */
    record JudgedFile(SlicedFile file, List<SlicedFiles.Judged> on, String thumbnail) {
    }

    /** A spool to judge a file by, and its material's name. */
    record Choice(StockSpool spool, String material) {
    }

    /**
     * @param ticket null for a file that came by itself
     * @param shelf  spools to choose from for that, and the one that is chosen
     */
    record SlicedPage(@Nullable Ticket ticket, List<Choice> shelf, @Nullable StockSpool spool, Material material, List<JudgedFile> judged) {
    }

    @GetMapping("/tickets/{id}/sliced")
    String ofTicket(@PathVariable long id, Model page) {
        Ticket ticket = tickets.ticket(id);
        PlanEntry plan = planning.entry(ticket);
        Material material = planning.material(ticket, plan);
        page.addAttribute("page", new SlicedPage(ticket, List.of(), null, material,
                judged(sliced.ofTickets(List.of(id)), material, planning.spool(plan).map(StockSpool::spool).orElse(null))));
        return "plan/sliced";
    }

    @PostMapping("/tickets/{id}/sliced")
    String take(@PathVariable long id, @RequestParam MultipartFile file, @RequestParam String token) throws IOException {
        tickets.ticket(id);
        sliced.take(id, String.valueOf(file.getOriginalFilename()), file.getSize(), file.getInputStream(), token);
        return "redirect:/tickets/%d/sliced".formatted(id);
    }

    /** A file that came by itself, on the spool that is asked for, or one of the material it seems to be made for. */
    @GetMapping("/sliced/{id}")
    String loose(@PathVariable long id, @RequestParam(required = false) Long spool, Model page) {
        SlicedFile file = sliced.file(id);
        List<StockSpool> shelf = spools.shelf();
        StockSpool on = shelf.stream().filter(one -> spool != null && one.id() == spool).findFirst()
                .or(() -> sliced.likeliest(file, shelf))
                .orElseThrow(() -> new Refusal("There is no spool on the shelf. Add one in the Stores first."));
        Material material = inventory.material(on.spool().materialId()).orElseThrow();
        page.addAttribute("page", new SlicedPage(null, shelf.stream().map(one -> new Choice(one, inventory.material(one.spool().materialId())
                .map(Material::name).orElse(""))).toList(), on, material, judged(List.of(file), material, on.spool())));
        return "plan/sliced";
    }

    private List<JudgedFile> judged(List<SlicedFile> files, Material material, @Nullable Spool spool) {
        return files.stream().map(file -> new JudgedFile(file, sliced.judge(file, material, spool), inventory.printers().stream().findFirst()
                .map(printer -> sliced.replay(file, printer.printer()).thumbnail()).orElse(""))).toList();
    }
}
