package fabbrica.web.plan;

import fabbrica.core.recipe.Material;
import fabbrica.core.recipe.Spool;
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

/** Files sliced elsewhere, brought for a ticket that has a model: for which printer are they? */
@Controller
class SlicedController {

    private final Tickets tickets;
    private final Planning planning;
    private final SlicedFiles files;

    SlicedController(Tickets tickets, Planning planning, SlicedFiles files) {
        this.tickets = tickets;
        this.planning = planning;
        this.files = files;
    }

    /** A file with what it would do on each printer. */
    record JudgedFile(SlicedFile file, List<SlicedFiles.Judged> on, String thumbnail) {
    }

    record SlicedPage(Ticket ticket, Material material, List<JudgedFile> judged) {
    }

    @GetMapping("/tickets/{id}/sliced")
    String ofTicket(@PathVariable long id, Model page) {
        Ticket ticket = tickets.ticket(id);
        PlanEntry plan = planning.entry(ticket);
        Material material = planning.material(ticket, plan);
        page.addAttribute("page", new SlicedPage(ticket, material,
                judged(files.ofTickets(List.of(id)), material, planning.spool(plan).map(StockSpool::spool).orElse(null))));
        return "plan/sliced";
    }

    @PostMapping("/tickets/{id}/sliced")
    String take(@PathVariable long id, @RequestParam MultipartFile file, @RequestParam String token) throws IOException {
        tickets.ticket(id);
        files.take(id, String.valueOf(file.getOriginalFilename()), file.getSize(), file.getInputStream(), token);
        return "redirect:/tickets/%d/sliced".formatted(id);
    }

    private List<JudgedFile> judged(List<SlicedFile> brought, Material material, @Nullable Spool spool) {
        return brought.stream().map(file -> new JudgedFile(file, files.judge(file.sha256(), material, spool), files.thumbnail(file.sha256()))).toList();
    }
}
