package fabbrica.web.machine;

import fabbrica.web.platform.Back;
import fabbrica.web.platform.FormValues;
import fabbrica.web.platform.events.Fact;
import java.security.Principal;
import java.time.Duration;
import java.util.NoSuchElementException;
import org.springframework.http.CacheControl;
import org.springframework.http.MediaType;
import org.springframework.http.ResponseEntity;
import org.springframework.stereotype.Controller;
import org.springframework.ui.Model;
import org.springframework.util.MultiValueMap;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.servlet.mvc.support.RedirectAttributes;

/** Machines as they stand, for every page that shows some of them, and what they are told from there. */
@Controller
@RequestMapping("/machines")
class MachineController {

    private static final Duration SEEN_AGAIN = Duration.ofSeconds(5);

    private final Machines machines;
    private final MachineBook book;

    MachineController(Machines machines, MachineBook book) {
        this.machines = machines;
        this.book = book;
    }

    /** Each in its own place on whatever page asks. */
    @GetMapping
    String standing(Model page) {
        page.addAttribute("all", machines.all());
        return "machine/parts :: all";
    }

    @GetMapping("/alarms")
    String alarms() {
        return "machine/parts :: alarms";
    }

    /** What the camera over its bed sees. */
    @GetMapping("/{id}/picture")
    ResponseEntity<byte[]> picture(@PathVariable String id) {
        return ResponseEntity.ok().contentType(MediaType.IMAGE_PNG).cacheControl(CacheControl.maxAge(SEEN_AGAIN).cachePrivate())
                .body(machines.picture(id).orElseThrow(NoSuchElementException::new));
    }

    /** What it is told may be done twice: it is where it was told to be then. */
    @PostMapping("/{id}")
    String tell(@PathVariable String id, @RequestParam MachineOrder order, @RequestParam MultiValueMap<String, String> values, Principal who, RedirectAttributes flash) {
        machines.tell(id, order.command());
        if (order == MachineOrder.STOP) {
            book.tell(who.getName(), id, new Fact.StopPressed());
        }
        flash.addFlashAttribute("told", order.told(machines.of(id).orElseThrow().name()));
        return Back.to(new FormValues(values), "/floor");
    }
}
