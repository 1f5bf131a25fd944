package fabbrica.web.floor;

import fabbrica.core.units.Spoken;
import fabbrica.web.floor.FloorPlan.Anew;
import fabbrica.web.plan.LaidPlate;
import fabbrica.web.plan.Plates;
import fabbrica.web.plan.Plates.Relaid;
import fabbrica.web.platform.FormValues;
import fabbrica.web.platform.Moments;
import fabbrica.web.platform.Refusal;
import fabbrica.web.platform.Seen;
import java.security.Principal;
import java.util.List;
import java.util.Objects;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import org.springframework.stereotype.Controller;
import org.springframework.ui.Model;
import org.springframework.util.MultiValueMap;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.servlet.mvc.support.RedirectAttributes;

/** A plate that waits is laid in two, or together with another: what that takes is shown before it is done. */
@Controller
class RelayController {

    private final Plates plates;
    private final FloorPlans plans;
    private final Moments moments;

    RelayController(Plates plates, FloorPlans plans, Moments moments) {
        this.plates = plates;
        this.plans = plans;
        this.moments = moments;
    }

    /**
     * A plate as it would be laid anew.
     *
     * @param address to which it is sent
     * @param field   that is sent with it, and its value
     */
    record RelayPage(List<LaidPlate> seen, String address, String field, String value, List<String> sentences) {
    }

    @GetMapping("/floor/plates/{plate}/apart")
    String apart(@PathVariable long plate, @RequestParam MultiValueMap<String, String> values, Model page) {
        LaidPlate seen = plates.plate(plate);
        int copies = copies(values);
        page.addAttribute("page", new RelayPage(List.of(seen), "/floor/plates/%d/apart".formatted(plate), "copies", Integer.toString(copies),
                sentences(plates.apart(seen, copies))));
        return "floor/slot :: relaid";
    }

    @PostMapping("/floor/plates/{plate}/apart")
    String layApart(@PathVariable long plate, @RequestParam MultiValueMap<String, String> values, Principal who, RedirectAttributes flash) {
        LaidPlate seen = Seen.unchanged(List.of(plates.plate(plate)), new FormValues(values)).getFirst();
        return laid(plates.apart(seen, copies(values)), "Laid in two; both wait.", who, flash);
    }

    @GetMapping("/floor/plates/{plate}/together")
    String together(@PathVariable long plate, @RequestParam(defaultValue = "0") long other, Model page) {
        List<LaidPlate> both = both(plate, other);
        page.addAttribute("page", new RelayPage(both, "/floor/plates/%d/together".formatted(plate), "other", Long.toString(other),
                sentences(plates.together(both.getFirst(), both.getLast()))));
        return "floor/slot :: relaid";
    }

    @PostMapping("/floor/plates/{plate}/together")
    String layTogether(@PathVariable long plate, @RequestParam MultiValueMap<String, String> values, @RequestParam(defaultValue = "0") long other, Principal who,
                       RedirectAttributes flash) {
        List<LaidPlate> both = Seen.unchanged(both(plate, other), new FormValues(values));
        return laid(plates.together(both.getFirst(), both.getLast()), "Laid together; it waits where the first of them did.", who, flash);
    }

    private List<LaidPlate> both(long plate, long other) {
        return List.of(plates.plate(plate), plates.plates(List.of(other)).stream().findFirst().orElseThrow(() -> new Refusal("Choose another plate.")));
    }

    private static int copies(MultiValueMap<String, String> values) {
        String text = new FormValues(values).text("copies");
        if (!text.matches("\\d{1,4}")) {
            throw new Refusal("Say how many copies go on a plate of their own.");
        }
        return Integer.parseInt(text);
    }

    private String laid(Relaid relaid, String told, Principal who, RedirectAttributes flash) {
        List<Long> ids = plates.relay(relaid, who.getName());
        flash.addFlashAttribute("told", told);
        return "redirect:/floor/plates/" + ids.getFirst();
    }

    private static String takes(int copies, double seconds) {
        return "%d in %s".formatted(copies, Spoken.duration(seconds));
    }

    /** What it takes, and what the queues come to then. */
    private List<String> sentences(Relaid relaid) {
        FloorPlan queues = plans.desk().queues();
        LaidPlate first = relaid.before().getFirst();
        FloorPlan then = queues.relaid(relaid.before().stream().map(LaidPlate::id).toList(), relaid.after().stream()
                .map(laid -> new Anew(laid.plate().copies().size(), laid.as(first))).toList());
        return Stream.concat(Stream.of(sentence(relaid)), Consequence.of(queues, then, first.id(), moments).sentences().stream()).toList();
    }

    private static String sentence(Relaid relaid) {
        String after = relaid.after().stream().map(laid -> takes(laid.plate().copies().size(), laid.promise().totalS())).collect(Collectors.joining(" and "));
        String before = relaid.before().stream().map(plate -> takes(plate.copies().size(), Objects.requireNonNull(plate.promise()).totalS()))
                .collect(Collectors.joining(" and "));
        double longer = relaid.longerS();
        return "Copies: %s, instead of %s: %s %s in all.".formatted(after, before, Spoken.duration(Math.abs(longer)), longer < 0 ? "less" : "more");
    }
}
