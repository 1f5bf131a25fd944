package fabbrica.web.machine;

import fabbrica.core.run.Command;
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

    @PostMapping("/{id}/stop")
    String stop(@PathVariable String id, @RequestParam MultiValueMap<String, String> values, Principal who, RedirectAttributes flash) {
        machines.tell(id, new Command.EmergencyStop());
        book.tell(who.getName(), id, new Fact.StopPressed());
        flash.addFlashAttribute("told", "%s was told to switch its heaters and motors off at once. Its own switch comes first: use it if anything moves, smells or smokes.".formatted(name(id)));
        return Back.to(new FormValues(values), "/floor");
    }

    @PostMapping("/{id}/pause")
    String pause(@PathVariable String id, @RequestParam MultiValueMap<String, String> values, RedirectAttributes flash) {
        return told(id, new Command.Pause(), "%s was told to pause. It stays hot.", values, flash);
    }

    @PostMapping("/{id}/resume")
    String resume(@PathVariable String id, @RequestParam MultiValueMap<String, String> values, RedirectAttributes flash) {
        return told(id, new Command.Resume(), "%s was told to go on.", values, flash);
    }

    @PostMapping("/{id}/end")
    String end(@PathVariable String id, @RequestParam MultiValueMap<String, String> values, RedirectAttributes flash) {
        return told(id, new Command.Cancel(), "%s was told to end it there. Let it cool before you reach in, then say how it ended.", values, flash);
    }

    @PostMapping("/{id}/restart")
    String restart(@PathVariable String id, @RequestParam MultiValueMap<String, String> values, RedirectAttributes flash) {
        return told(id, new Command.Restart(), "%s was told to be ready again. If it does not answer, switch it off and on.", values, flash);
    }

    private String told(String id, Command command, String sentence, MultiValueMap<String, String> values, RedirectAttributes flash) {
        machines.tell(id, command);
        flash.addFlashAttribute("told", sentence.formatted(name(id)));
        return Back.to(new FormValues(values), "/floor");
    }

    private String name(String id) {
        return machines.of(id).orElseThrow().name();
    }
}
