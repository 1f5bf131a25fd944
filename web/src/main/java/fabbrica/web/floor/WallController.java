package fabbrica.web.floor;

import fabbrica.web.floor.FloorPlans.Desk;
import fabbrica.web.platform.FormValues;
import fabbrica.web.platform.Moments;
import fabbrica.web.platform.Seen;
import fabbrica.web.stores.Inventory;
import fabbrica.web.ticket.Ticket;
import fabbrica.web.ticket.TicketState;
import fabbrica.web.ticket.Tickets;
import java.time.Instant;
import java.util.Comparator;
import java.util.List;
import java.util.Set;
import org.springframework.http.ResponseEntity;
import org.springframework.stereotype.Controller;
import org.springframework.ui.Model;
import org.springframework.util.MultiValueMap;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.servlet.mvc.support.RedirectAttributes;

/** The floor plan for a screen in the room and for people's calendars: numbers of tickets, no names. */
@Controller
class WallController {

    private final Wall wall;
    private final FloorPlans plans;
    private final Runs runs;
    private final Tickets tickets;
    private final Timeline timeline;
    private final Inventory inventory;
    private final Moments moments;

    WallController(Wall wall, FloorPlans plans, Runs runs, Tickets tickets, Timeline timeline, Inventory inventory, Moments moments) {
        this.wall = wall;
        this.plans = plans;
        this.runs = runs;
        this.tickets = tickets;
        this.timeline = timeline;
        this.inventory = inventory;
        this.moments = moments;
    }

    /** @param key empty as long as no addresses were made */
    record AddressesPage(String key) {

        public boolean made() {
            return !key.isEmpty();
        }
    }

    @GetMapping("/floor/wall")
    String addresses(Model page) {
        page.addAttribute("page", new AddressesPage(wall.key().orElse("")));
        return "floor/addresses";
    }

    @PostMapping("/floor/wall")
    String renew(@RequestParam MultiValueMap<String, String> values, RedirectAttributes flash) {
        Seen.unchanged(new AddressesPage(wall.key().orElse("")), new FormValues(values));
        wall.renew();
        flash.addFlashAttribute("told", "These are the addresses now; those from before lead nowhere any more.");
        return "redirect:/floor/wall";
    }

    /**
     * What a screen in the room shows.
     *
     * @param ends  what prints, the one that ends next first
     * @param ready tickets that can be collected
     */
    record WallPage(String lab, String key, Instant now, String timeline, List<Run> ends, List<Ticket> ready) {
    }

    @GetMapping("/wall/{key}")
    String wall(@PathVariable String key, Model page) {
        wall.require(key);
        List<Run> running = runs.running();
        page.addAttribute("page", new WallPage(inventory.lab().name(), key, moments.now(), timeline.svg(plans.desk().queues(), running, Zoom.SHIFT, Set.of(), false),
                running.stream().sorted(Comparator.comparing(Run::expectedEnd)).toList(), tickets.inStates(TicketState.PRINTED)));
        return "floor/wall";
    }

    @GetMapping(path = "/wall/{key}/floor.ics", produces = "text/calendar;charset=UTF-8")
    ResponseEntity<String> calendar(@PathVariable String key) {
        wall.require(key);
        Desk desk = plans.desk();
        return ResponseEntity.ok(FloorCalendar.of(desk.queues(), runs.running(), inventory.lab().name()));
    }
}
