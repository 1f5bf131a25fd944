package fabbrica.web.floor;

import fabbrica.core.schedule.Schedule.Slot;
import fabbrica.web.floor.Batching.Batch;
import fabbrica.web.floor.FloorPlans.Desk;
import fabbrica.web.floor.FloorPlans.Stand;
import fabbrica.web.floor.Publishing.Letter;
import fabbrica.web.plan.Elsewhere;
import fabbrica.web.plan.LaidPlate;
import fabbrica.web.platform.FormValues;
import fabbrica.web.platform.Moments;
import fabbrica.web.platform.Refusal;
import fabbrica.web.platform.Seen;
import java.security.Principal;
import java.time.Instant;
import java.util.List;
import java.util.Optional;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Controller;
import org.springframework.ui.Model;
import org.springframework.util.MultiValueMap;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.servlet.mvc.support.RedirectAttributes;

/** The draft of the next floor plan: made, changed plate by plate, taken back, published. */
@Controller
class DraftController {

    private final FloorPlans plans;
    private final Drafting drafting;
    private final Publishing publishing;
    private final Elsewhere elsewhere;
    private final Batching batching;
    private final Moments moments;

    DraftController(FloorPlans plans, Drafting drafting, Publishing publishing, Elsewhere elsewhere, Batching batching, Moments moments) {
        this.plans = plans;
        this.drafting = drafting;
        this.publishing = publishing;
        this.elsewhere = elsewhere;
        this.batching = batching;
        this.moments = moments;
    }

    /** A plate that a draft puts elsewhere, and the reason in a phrase. */
    record Told(LaidPlate plate, String from, String to, boolean late, boolean saved, String why) {
    }

    /**
     * A draft before it is published.
     *
     * @param draft   nothing when the queues are as they were
     * @param letters what members are told when it is published
     */
    record DraftPage(Optional<Draft> draft, String mark, List<Told> moved, List<Letter> letters, boolean looking) {

        public long slips() {
            return letters.stream().filter(Letter::slips).count();
        }
    }

    @GetMapping("/floor/draft")
    String draft(Model page) {
        Desk desk = plans.desk();
        List<Moved> moved = Moved.between(desk.queues().floor().waiting(), desk.queues().schedule(), desk.plan().schedule(), desk.plan().needed());
        page.addAttribute("page", new DraftPage(desk.draft(), desk.stand().mark(), moved.stream().map(one -> told(desk, one)).toList(), publishing.letters(desk.plan()),
                drafting.isLooking()));
        return "floor/draft";
    }

    private Told told(Desk desk, Moved moved) {
        LaidPlate plate = moved.plate();
        String before = moved.before().map(slot -> where(desk, slot)).orElseGet(() -> Optional.ofNullable(plate.published()).map(slot -> "%s, %s".formatted(
                desk.plan().printer(slot.printerId()).name(), moments.say(slot.start()))).orElse("no place"));
        return new Told(plate, before, moved.after().map(slot -> where(desk, slot)).orElse("no place"), moved.late(), moved.saved(), moved.because(desk.plan()));
    }

    private String where(Desk desk, Slot slot) {
        return "%s, %s".formatted(desk.plan().printer(slot.machine()).name(), moments.say(slot.start()));
    }

    record BatchesPage(List<Batch> batches) {
    }

    /** Plates that would better be laid together, asked for by themselves. */
    @GetMapping("/floor/batches")
    String batches(Model page) {
        page.addAttribute("page", new BatchesPage(batching.of(plans.desk().queues())));
        return "floor/draft :: batches";
    }

    @PostMapping("/floor/draft")
    String plan(Principal who, RedirectAttributes flash) {
        drafting.plan(who.getName());
        flash.addFlashAttribute("told", "A plan is being looked for. It stands here as a draft in a moment; until it is published nothing changes.");
        return "redirect:/floor";
    }

    /** What another place would do, before anything is done; asked for while a plate is carried. */
    record Carried(LaidPlate plate, String printer, @Nullable Long before, String mark, Consequence consequence) {
    }

    @GetMapping("/floor/plates/{plate}/carried")
    String carried(@PathVariable long plate, @RequestParam String printer, @RequestParam(required = false) @Nullable Long before, Model page) {
        Desk desk = plans.desk();
        FloorPlan then = desk.plan().moved(carried(desk, plate, printer), before);
        page.addAttribute("page", new Carried(desk.plan().plate(plate), printer, before, desk.stand().mark(), Consequence.of(desk.plan(), then, plate, moments)));
        return "floor/slot :: carried";
    }

    /** Not pinned any more: whoever moves it wants it to move. */
    private Placed carried(Desk desk, long plate, String printer) {
        Placed one = desk.plan().one(plate);
        return one.on(printer) ? one.pinnedAt(null) : one.pinnedAt(null).with(elsewhere.way(desk.plan().plate(plate), printer, desk.plan().floor()));
    }

    @PostMapping("/floor/plates/{plate}/put")
    String put(@PathVariable long plate, @RequestParam String printer, @RequestParam(required = false) @Nullable Long before,
               @RequestParam MultiValueMap<String, String> values, Principal who, RedirectAttributes flash) {
        Desk desk = waiting(values, plate);
        FloorPlan then = desk.plan().moved(carried(desk, plate, printer), before);
        return step(desk, then, "plate no. %d moved on %s".formatted(plate, then.printer(printer).name()), who, flash);
    }

    @PostMapping("/floor/plates/{plate}/pin")
    String pin(@PathVariable long plate, @RequestParam MultiValueMap<String, String> values, Principal who, RedirectAttributes flash) {
        FormValues form = new FormValues(values);
        Desk desk = waiting(values, plate);
        Placed one = desk.plan().one(plate);
        if (form.flag("loose")) {
            return step(desk, desk.plan().with(one.pinnedAt(null)), "plate no. %d no longer pinned".formatted(plate), who, flash);
        }
        Instant start = form.moment("start", "Start").map(moments::at).orElseThrow(() -> new Refusal("Say when it is to start."));
        if (start.isBefore(moments.now())) {
            throw new Refusal("It cannot start in the past.");
        }
        FloorPlan then = desk.plan().with(one.pinnedAt(start));
        if (then.slot(plate).isEmpty()) {
            throw new Refusal("It cannot start then: the printer is busy, nobody is there who may make it ready, or it would run on while nobody is there.");
        }
        return step(desk, then, "plate no. %d pinned".formatted(plate), who, flash);
    }

    private Desk waiting(MultiValueMap<String, String> values, long plate) {
        Desk desk = plans.desk();
        plans.requireUnchanged(stand(values));
        if (desk.plan().floor().waiting().stream().noneMatch(each -> each.id() == plate)) {
            throw new Refusal("Only a plate that waits has a place in the plan.");
        }
        return desk;
    }

    /** @param what was done, without names: it outlasts what it was done to */
    private String step(Desk desk, FloorPlan then, String what, Principal who, RedirectAttributes flash) {
        plans.draft(desk, then, what, who.getName());
        flash.addFlashAttribute("told", "In the draft: %s.".formatted(what));
        return "redirect:/floor";
    }

    @PostMapping("/floor/draft/undo")
    String undo(@RequestParam MultiValueMap<String, String> values, RedirectAttributes flash) {
        plans.undo(stand(values));
        flash.addFlashAttribute("told", "Taken back.");
        return "redirect:/floor";
    }

    @PostMapping("/floor/draft/discard")
    String discard(@RequestParam MultiValueMap<String, String> values, RedirectAttributes flash) {
        plans.discard(stand(values));
        flash.addFlashAttribute("told", "The draft is thrown away. What was published holds.");
        return "redirect:/floor";
    }

    @PostMapping("/floor/draft/publish")
    String publish(@RequestParam MultiValueMap<String, String> values, Principal who, RedirectAttributes flash) {
        List<Letter> letters = publishing.publish(stand(values), who.getName());
        flash.addFlashAttribute("told", "The plan is published. %s".formatted(letters.isEmpty() ? "Nobody had to be told anything new."
                : letters.size() == 1 ? "One message was sent." : letters.size() + " messages were sent."));
        return "redirect:/floor";
    }

    private static Stand stand(MultiValueMap<String, String> values) {
        return Stand.of(new FormValues(values).text(Seen.FIELD));
    }
}
