package fabbrica.web.plan;

import fabbrica.core.recipe.Material;
import fabbrica.web.stores.Inventory;
import fabbrica.web.stores.StockSpool;
import fabbrica.web.ticket.Plan;
import fabbrica.web.ticket.Planning;
import fabbrica.web.ticket.Ticket;
import fabbrica.web.ticket.Tickets;
import java.io.IOException;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import org.springframework.stereotype.Controller;
import org.springframework.ui.Model;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.multipart.MultipartFile;

/** Files sliced elsewhere: for which printer are they? */
@Controller
@RequestMapping("/tickets/{id}")
class SlicedController {

    private final Tickets tickets;
    private final Planning planning;
    private final SlicedFiles sliced;
    private final Inventory inventory;

    SlicedController(Tickets tickets, Planning planning, SlicedFiles sliced, Inventory inventory) {
        this.tickets = tickets;
        this.planning = planning;
        this.sliced = sliced;
        this.inventory = inventory;
    }

    @GetMapping("/sliced")
    String sliced(@PathVariable long id, Model page) {
        Ticket ticket = tickets.ticket(id);
        Plan plan = planning.start(ticket);
        Material material = planning.material(ticket, plan);
        List<Map<String, Object>> judged = new ArrayList<>();
        for (SlicedFile file : sliced.ofTicket(id)) {
            judged.add(Map.of("file", file, "on", sliced.judge(file, material, planning.spool(plan).map(StockSpool::spool).orElse(null)),
                    "thumbnail", inventory.printers().isEmpty() ? ""
                            : sliced.replay(file, inventory.printers().getFirst().printer()).thumbnail()));
        }
        page.addAttribute("ticket", ticket);
        page.addAttribute("material", material);
        page.addAttribute("judged", judged);
        return "plan/sliced";
    }

    @PostMapping("/sliced")
    String takeSliced(@PathVariable long id, @RequestParam MultipartFile file) throws IOException {
        tickets.ticket(id);
        sliced.take(id, file.getOriginalFilename(), file.getSize(), file.getInputStream());
        return "redirect:/tickets/%d/sliced".formatted(id);
    }
}
