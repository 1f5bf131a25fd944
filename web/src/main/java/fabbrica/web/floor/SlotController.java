package fabbrica.web.floor;

import fabbrica.core.schedule.Schedule.Slot;
import fabbrica.core.units.Spoken;
import fabbrica.web.floor.FloorPlans.Desk;
import fabbrica.web.plan.Elsewhere;
import fabbrica.web.plan.LaidPlate;
import fabbrica.web.plan.Plates;
import fabbrica.web.platform.Moments;
import fabbrica.web.stores.StockPrinter;
import java.time.Duration;
import java.time.Instant;
import java.util.List;
import java.util.Locale;
import java.util.Objects;
import java.util.Optional;
import java.util.stream.IntStream;
import java.util.stream.Stream;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Controller;
import org.springframework.ui.Model;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;

/** A plate's place in the floor plan: why there, why then, and what other places would cost. */
@Controller
class SlotController {

    private final FloorPlans plans;
    private final Elsewhere elsewhere;
    private final Plates plates;
    private final Moments moments;

    SlotController(FloorPlans plans, Elsewhere elsewhere, Plates plates, Moments moments) {
        this.plans = plans;
        this.elsewhere = elsewhere;
        this.plates = plates;
        this.moments = moments;
    }

    /** A place on a printer that a plate can be put to: before another plate, or at the end. */
    record Goal(String printer, @Nullable Long before, String label) {
    }

    /**
     * A plate's place.
     *
     * @param before what is to be done first; empty when that is nothing
     * @param pinned when it is to start, come what may; null while it is not pinned
     * @param needed by when somebody needs it; null when there is no hurry
     * @param start  for a pin, as its field wants it
     * @param alike  plates that wait with which it could be laid together
     */
    record SlotPage(LaidPlate plate, String before, StockPrinter printer, Optional<Slot> slot, @Nullable Instant pinned, @Nullable Instant needed, boolean late, Why why, String mark,
                    String start, List<Goal> goals, List<LaidPlate> alike) {
    }

    @GetMapping("/floor/plates/{plate}")
    String slot(@PathVariable long plate, Model page) {
        Desk desk = plans.desk();
        FloorPlan plan = desk.plan();
        if (plan.floor().waiting().stream().noneMatch(each -> each.id() == plate)) {
            return "redirect:/plates/" + plate;
        }
        Placed one = plan.one(plate);
        Instant due = Objects.requireNonNull(plan.claims().get(plate)).due();
        Optional<Slot> slot = plan.slot(plate);
        page.addAttribute("page", new SlotPage(plan.plate(plate), slot.map(SlotController::before).orElse(""), plan.printer(one.way().printerId()), slot,
                one.pinned(), due, plan.late(plate), Why.of(plan, plate, elsewhere.ways(plan.plate(plate), plan.floor()), moments), desk.stand().mark(),
                moments.forInput(slot.map(Slot::start).orElse(moments.now()).plusSeconds(59)), goals(plan, one),
                plan.floor().waiting().stream().filter(other -> plates.isAlike(plan.plate(plate), other)).toList()));
        return "floor/slot";
    }

    private static String before(Slot slot) {
        long workS = Duration.between(slot.work(), slot.start()).toSeconds();
        return workS == 0 ? "" : "Before it, %s of work at the printer%s.".formatted(Spoken.duration(workS), slot.chores().isEmpty() ? ""
                : ": clear it, change what has to be changed, " + String.join(", ", slot.chores()).toLowerCase(Locale.ROOT));
    }

    /** Of its own printer, all places but the one it has. */
    private static List<Goal> goals(FloorPlan plan, Placed one) {
        List<Placed> row = plan.row(one.way().printerId());
        int at = row.indexOf(one);
        return Stream.concat(IntStream.range(0, row.size()).filter(i -> i != at && i != at + 1).mapToObj(i -> new Goal(one.way().printerId(),
                row.get(i).plate(), "before " + plan.plate(row.get(i).plate()).name())), at == row.size() - 1 ? Stream.empty()
                : Stream.of(new Goal(one.way().printerId(), null, "last"))).toList();
    }
}
