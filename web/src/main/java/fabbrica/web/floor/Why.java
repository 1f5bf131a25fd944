package fabbrica.web.floor;

import fabbrica.core.judge.Obstacle;
import fabbrica.core.schedule.FloorView.Option;
import fabbrica.core.schedule.Reasons;
import fabbrica.core.schedule.Reasons.Alternative;
import fabbrica.core.schedule.Reasons.Hold;
import fabbrica.core.schedule.Rules;
import fabbrica.core.schedule.Schedule.Slot;
import fabbrica.core.schedule.Tally;
import fabbrica.core.units.Spoken;
import fabbrica.web.plan.Elsewhere.Possible;
import fabbrica.web.plan.Way;
import fabbrica.web.platform.Moments;
import fabbrica.web.stores.StockPrinter;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;

/** Why a plate is where it is in a floor plan, what it would cost elsewhere, and what would help it, in sentences. */
record Why(String here, List<Elsewhere> elsewhere) {

    private static final double SECONDS = 60;

    /**
     * Another printer for it.
     *
     * @param stopped whether something stops it there
     * @param known   whether that, and what it would take, is worked out
     * @param slot    that it would have there; nothing when it would have none
     * @param costs   what it would cost more, or save, rule by rule; what stops it where it cannot be printed
     */
    record Elsewhere(StockPrinter printer, boolean stopped, boolean known, Optional<Slot> slot, List<String> costs) {
    }

    /** Whether something is still being worked out. */
    public boolean isUnknown() {
        return elsewhere.stream().anyMatch(each -> !each.known());
    }

    static Why of(FloorPlan plan, long plate, List<Possible> ways, Moments moments) {
        List<Option> options = ways.stream().map(Possible::way).flatMap(Optional::stream).map((Way way) -> plan.floor().option(way)).toList();
        Reasons reasons = new Reasons(plan.open(Map.of(plate, options)), plan.schedule());
        Placed one = plan.one(plate);
        boolean placed = plan.slot(plate).isPresent();
        List<Elsewhere> others = new ArrayList<>();
        for (Alternative each : reasons.alternatives(plate)) {
            if (placed || !one.on(each.option().machine())) {
                List<String> costs = each.slot().isEmpty() ? List.of("there is no room for it as things are")
                        : placed ? costs(each.more()) : List.of("it would have a place");
                others.add(new Elsewhere(plan.printer(each.option().machine()), false, true, each.slot(), costs));
            }
        }
        boolean somewhere = others.stream().anyMatch(each -> each.slot().isPresent());
        others.addAll(stopped(plan, one, ways));
        String name = plan.printer(one.way().printerId()).name();
        return new Why(placed ? held(reasons.hold(plate), name) : somewhere ? "It has no place on %s as things are; elsewhere it would.".formatted(name)
                : nowhere(reasons.remedies(plate)), others);
    }

    private static String nowhere(List<Hold> remedies) {
        return remedies.isEmpty() ? "It has no place, and no one thing alone would give it one."
                : "It has no place. It would have one %s.".formatted(String.join(", or ", remedies.stream().map(Why::remedy).toList()));
    }

    /** Printers on which something stops it, or on which it is still being worked out. */
    private static List<Elsewhere> stopped(FloorPlan plan, Placed one, List<Possible> ways) {
        return ways.stream().filter(each -> each.way().isEmpty() && !one.on(each.printer().id())).map(each -> new Elsewhere(each.printer(),
                each.stopped().isPresent(), each.stopped().isPresent(), Optional.empty(), List.of(each.stopped().map(Obstacle::reason).orElse("being worked out…")))).toList();
    }

    private static String held(Hold hold, String printer) {
        return switch (hold) {
            case NOTHING -> "It starts as soon as it can.";
            case OTHERS -> "It could start sooner; as a whole the plan is better so.";
            case MACHINE -> "%s has something else to print before, or is not ready sooner.".formatted(printer);
            case RELEASE -> "It may not start before then.";
            case UNATTENDED -> "Sooner it would run on while nobody is there, which it may not.";
            case PEOPLE -> "Whoever may make the printer ready is busy, or not there, before then.";
            case HOURS -> "Nobody is there before then.";
            case DOWN -> "%s is out of order until then.".formatted(printer);
            case SPOOL -> "Its spool is in another printer until then.";
            case PIN -> "It is pinned: it starts then, and others go round it.";
        };
    }

    private static String remedy(Hold hold) {
        return switch (hold) {
            case MACHINE -> "if the printer were in order again";
            case RELEASE -> "if it might start sooner";
            case UNATTENDED -> "if it might run while nobody is there";
            case PEOPLE -> "if somebody were there who may make the printer ready";
            case HOURS -> "if somebody were there for longer";
            case DOWN -> "if the printer were in order sooner";
            case SPOOL -> "from another spool of the same";
            case PIN -> "if it were not pinned";
            case NOTHING, OTHERS -> "if others made room";
        };
    }

    /** Units of the rules in minutes of what they are about. */
    private static List<String> costs(Tally more) {
        Rules rules = Rules.OF_A_LAB;
        List<String> costs = new ArrayList<>();
        add(costs, more.lateness() / (double) rules.lateness(), "later than needed", "less late");
        add(costs, more.fairness() / (double) rules.fairness(), "longer for those who had little of the floor", "sooner for those who had little of the floor");
        add(costs, more.changes() / (double) rules.changes(), "more of changing filament and nozzle", "less of changing filament and nozzle");
        add(costs, more.reliability() / (double) rules.reliability(), "more of printing likely to be lost to a failure", "less of printing likely to be lost to a failure");
        add(costs, more.earlyFinish() / (double) rules.earlyFinish(), "later, all plates together", "sooner, all plates together");
        return costs.isEmpty() ? List.of("as good as here") : costs;
    }

    private static void add(List<String> costs, double minutes, String more, String less) {
        if (Math.abs(minutes) >= 1) {
            costs.add("%s %s".formatted(Spoken.duration(Math.abs(minutes) * SECONDS), minutes > 0 ? more : less));
        }
    }
}
