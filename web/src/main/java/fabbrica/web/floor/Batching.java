package fabbrica.web.floor;

import fabbrica.core.schedule.Rules;
import fabbrica.core.schedule.Schedule.Slot;
import fabbrica.core.schedule.Tally;
import fabbrica.web.floor.Claims.Claim;
import fabbrica.web.floor.FloorPlan.Anew;
import fabbrica.web.plan.LaidPlate;
import fabbrica.web.plan.Plates;
import fabbrica.web.plan.Way;
import java.time.Duration;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.stream.Stream;
import org.springframework.stereotype.Component;

/**
 * Plates that wait for one printer, are printed alike and would share a bed with profit: it warms up once, is cleared once, and
 * whatever the plan is judged by, it is better so. Each pair is laid out as one in the plan; where it helps most stands first.
 */
@Component
class Batching {

    private static final int MOST_PAIRS = 80;
    private static final int MOST_SHOWN = 3;

    private final Plates plates;

    Batching(Plates plates) {
        this.plates = plates;
    }

    /** @param less that people and the printer have to do in all */
    record Batch(LaidPlate first, LaidPlate other, Duration less) {
    }

    List<Batch> of(FloorPlan plan) {
        record Worth(Batch batch, long gain) {
        }
        return pairs(plan).limit(MOST_PAIRS).map(pair -> {
            LaidPlate first = plan.plate(pair.getFirst().plate()), other = plan.plate(pair.getLast().plate());
            Way one = together(pair.getFirst().way(), pair.getLast().way());
            FloorPlan then = plan.relaid(List.of(first.id(), other.id()), List.of(new Anew(first.copies().size() + other.copies().size(), one)));
            return new Worth(new Batch(first, other, busy(plan).minus(busy(then))), cost(plan) - cost(then) - again(plan, then, first, other));
        }).filter(worth -> worth.gain() > 0).sorted(Comparator.comparingLong(Worth::gain).reversed()).map(Worth::batch)
                .filter(batch -> plates.fitOnOne(batch.first(), batch.other())).limit(MOST_SHOWN).toList();
    }

    /** Of each plate the next on its printer's row that is printed alike; what is pinned stays by itself. */
    private Stream<List<Placed>> pairs(FloorPlan plan) {
        List<List<Placed>> pairs = new ArrayList<>();
        plan.floor().printers().forEach(printer -> {
            List<Placed> row = plan.row(printer.id()).stream().filter(one -> one.pinned() == null).toList();
            for (int i = 0; i < row.size(); i++) {
                Placed one = row.get(i);
                row.stream().skip(i + 1L).filter(next -> plates.isAlike(plan.plate(one.plate()), plan.plate(next.plate()))).findFirst()
                        .ifPresent(next -> pairs.add(List.of(one, next)));
            }
        });
        return pairs.stream();
    }

    /** As long as both, but for getting ready once; what travels between parts take is known once they are laid. */
    private static Way together(Way one, Way other) {
        double once = Math.min(one.prepareS(), other.prepareS());
        return new Way(one.printerId(), one.spoolId(), Map.of(), Math.max(one.prepareS(), other.prepareS()), one.totalS() + other.totalS() - once,
                one.earliestS() + other.earliestS() - once, one.latestS() + other.latestS() - once, one.grams() + other.grams());
    }

    private static long cost(FloorPlan plan) {
        return Tally.of(plan.view(), plan.schedule()).sum();
    }

    /** What the second plate costs by ending when the first does: in the plan they are one. */
    private static long again(FloorPlan plan, FloorPlan then, LaidPlate first, LaidPlate other) {
        Claim claim = Objects.requireNonNull(plan.claims().get(other.id()));
        Rules rules = then.view().rules();
        return then.slot(first.id()).map(Slot::end).map(end -> Duration.between(then.view().now(), end).toSeconds())
                .map(endS -> rules.earlyFinish(endS) + rules.fairness(claim.patience(), endS)).orElse(Long.MAX_VALUE / 4);
    }

    private static Duration busy(FloorPlan plan) {
        return plan.schedule().slots().stream().map(slot -> Duration.between(slot.work(), slot.end())).reduce(Duration.ZERO, Duration::plus);
    }
}
