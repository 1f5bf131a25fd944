package fabbrica.core.run;

import fabbrica.core.recipe.Adhesion;
import fabbrica.core.run.Circumstances.History;
import fabbrica.core.run.Circumstances.LaidLayer;
import fabbrica.core.run.Circumstances.Shape;
import fabbrica.core.units.Spoken;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.OptionalDouble;

/**
 * What the circumstances of a run say for a cause, and against it. The bounds are common practice, no source; how much each clue weighs is a judgement of
 * ours, as the logarithm of how many times likelier it makes the cause.
 */
final class Clues {

    private static final double STRONG = 2;
    private static final double CLEAR = 1.2;
    private static final double SLIGHT = 0.6;

    private static final int MANY_RUNS = 12;
    private static final double LITTLE_CONTACT_MM2 = 100;
    private static final double MUCH_CONTACT_MM2 = 600;
    private static final double TIPS_DEG = 8;
    private static final double STANDS_DEG = 15;
    private static final double LATE = 0.5;
    private static final double LARGE_MM = 120;
    private static final double SHRINKS_FROM_C = 90;
    private static final double WORN_H = 300;
    private static final double NEAR_FULL_FLOW = 0.9;
    private static final int OPEN_LONG_DAYS = 30;
    private static final double WIDE_BORE_MM = 0.5;
    private static final double HANGS_MM2 = 20;
    private static final double NEAR_MM = 2;
    private static final double QUICK_LAYER_S = 12;
    private static final double LITTLE_SECTION_MM2 = 30;
    private static final double SHALLOW = 0.05;
    private static final double THICK_PER_BORE = 0.5;
    private static final double FAST_WALL_MM_S = 50;
    private static final double NARROW_MM = 0.35;
    private static final double THIN_LINES = 2;

    /**
     * @param weight above 0 when it speaks for the cause, below when against
     * @param reason a clause; empty for one that speaks against
     */
    record Clue(double weight, String reason) {
    }

    private final List<Sign> signs;
    private final Circumstances run;
    private final Shape shape;
    private final History history;
    private final OptionalDouble heightMm;
    private final List<Clue> clues = new ArrayList<>();

    private Clues(List<Sign> signs, Circumstances run) {
        this.signs = signs;
        this.run = run;
        this.shape = run.shape();
        this.history = run.history();
        this.heightMm = signs.stream().map(Sign::heightMm).filter(mm -> mm != null).mapToDouble(Double::doubleValue).findFirst();
    }

    static List<Clue> of(Cause cause, List<Sign> signs, Circumstances run) {
        Clues clues = new Clues(signs, run);
        clues.look(cause);
        return List.copyOf(clues.clues);
    }

    private void look(Cause cause) {
        switch (cause) {
            case DIRTY_PLATE -> {
                when(history.runsSinceWash() >= MANY_RUNS, STRONG, "the plate was washed %d runs ago", history.runsSinceWash());
                against(history.runsSinceWash() >= 0 && history.runsSinceWash() <= 3, CLEAR);
                when(othersAlike(), SLIGHT, "%d of %d other prints here lately show the same", history.otherAlike(), history.otherRuns());
                against(shape.contactMm2() < LITTLE_CONTACT_MM2, CLEAR);
            }
            case SMALL_CONTACT -> {
                when(shape.contactMm2() < LITTLE_CONTACT_MM2 && !held(), STRONG, "contact %s mm² for %s mm of height", area(shape.contactMm2()), Spoken.number(shape.heightMm(), 0));
                against(shape.contactMm2() > MUCH_CONTACT_MM2, STRONG);
                against(held(), CLEAR);
            }
            case NOT_LEVEL -> {
                when(history.levelDue(), STRONG, "calibrating the bed is overdue");
                when(shows(Defect.TORN, Site.CORNER) || shows(Defect.CAME_OFF, Site.CORNER), CLEAR, "it began at one corner");
                when(othersAlike(), SLIGHT, "%d of %d other prints here lately show the same", history.otherAlike(), history.otherRuns());
                against(!history.levelDue(), SLIGHT);
            }
            case TALL_AND_THIN -> {
                when(shape.tippingDeg() < TIPS_DEG, STRONG, "it falls over when tilted by %s°", Spoken.number(Math.max(0, shape.tippingDeg()), 0));
                when(late(), CLEAR, "it went wrong at %s of %s mm", at(), Spoken.number(shape.heightMm(), 0));
                layerThere().filter(layer -> layer.sectionMm2() < LITTLE_SECTION_MM2).ifPresent(layer -> clue(SLIGHT, "it is only %s mm² thick there", area(layer.sectionMm2())));
                against(shape.tippingDeg() > STANDS_DEG, STRONG);
            }
            case SHRINKING -> {
                when(run.material().bedC() >= SHRINKS_FROM_C, CLEAR, "%s shrinks as it cools", run.material().name());
                when(run.material().enclosed() && !run.printer().enclosed(), CLEAR, "%s is not enclosed", run.printer().name());
                when(shape.longestMm() > LARGE_MM, CLEAR, "it is %s mm long", Spoken.number(shape.longestMm(), 0));
                against(run.material().bedC() < SHRINKS_FROM_C && shape.longestMm() < LARGE_MM, CLEAR);
            }
            case CLOGGED -> {
                when(history.nozzleHours() > WORN_H, CLEAR, "the nozzle has run %s h", Spoken.number(history.nozzleHours(), 0));
                when(run.material().abrasive() && !run.printer().nozzle().hardened(), STRONG, "%s grinds a nozzle that is not hardened", run.material().name());
                when(othersAlike(), CLEAR, "%d of %d other prints here lately show the same", history.otherAlike(), history.otherRuns());
                when(shows(Defect.GAPS, Site.ALL_OVER), SLIGHT, "they are all over it");
                against(history.otherRuns() >= 3 && history.otherAlike() == 0, SLIGHT);
            }
            case SNAGGED -> {
                when(heightMm.isPresent() && shows(Defect.GAPS), CLEAR, "it began all at once, at %s mm", at());
                layerThere().filter(LaidLayer::change).ifPresent(layer -> clue(CLEAR, "the filament was changed there"));
                against(history.otherAlike() > 1, CLEAR);
            }
            case SPOOL_EMPTY -> {
                when(shows(Defect.GAPS, Site.TOP), CLEAR, "they are on top");
                when(!enough(), STRONG, "%s were on the spool, and %s needed", Spoken.grams(Math.max(0, history.leftG())), Spoken.grams(history.neededG()));
                against(history.leftG() > 2 * history.neededG() + 20, STRONG);
            }
            case TOO_MUCH_FLOW -> {
                double share = flow() / run.printer().kinematics().maxFlowMm3S();
                when(share > NEAR_FULL_FLOW, STRONG, "its fastest lines ask for %s of the %s mm³/s that this hot end melts", Spoken.number(flow(), 1),
                        Spoken.number(run.printer().kinematics().maxFlowMm3S(), 0));
                against(share < NEAR_FULL_FLOW / 1.5, CLEAR);
            }
            case WET -> {
                when(history.openDays() > OPEN_LONG_DAYS, STRONG, "the spool was opened or dried %d days ago", history.openDays());
                when(history.spoolAlike() > 0, CLEAR, "%d of %d prints from this spool show the same", history.spoolAlike(), history.spoolRuns());
                against(history.openDays() >= 0 && history.openDays() < 7, CLEAR);
            }
            case TOO_HOT -> {
                when(history.openDays() >= 0 && history.openDays() < 7, SLIGHT, "the spool was opened or dried only %d days ago", history.openDays());
                against(history.openDays() > OPEN_LONG_DAYS, SLIGHT);
            }
            case WIDE_NOZZLE -> {
                when(run.printer().nozzle().boreMm() > WIDE_BORE_MM, STRONG, "the nozzle is %s mm wide", Spoken.number(run.printer().nozzle().boreMm(), 2));
                when(shape.thinnestWallMm() < THIN_LINES * run.printer().nozzle().boreMm(), SLIGHT, "walls of %s mm are thinner than two lines", mm(shape.thinnestWallMm()));
                against(run.printer().nozzle().boreMm() < WIDE_BORE_MM && shape.thinnestWallMm() > THIN_LINES * run.printer().nozzle().boreMm(), CLEAR);
            }
            case NO_SUPPORT -> {
                when(hangs() && !run.recipe().propped(), STRONG, "%s mm² hang free, without supports", area(shape.freeMm2()));
                when(nearHanging() && !run.recipe().propped(), CLEAR, "something begins to hang at %s mm", at());
                against(!hangs() || run.recipe().propped(), STRONG);
            }
            case POOR_COOLING -> {
                layerThere().filter(layer -> layer.seconds() < QUICK_LAYER_S).ifPresent(layer -> clue(STRONG, "the layer at %s mm is laid in %s s", Spoken.number(layer.topMm(), 1),
                        Spoken.number(layer.seconds(), 0)));
                against(layerThere().filter(layer -> layer.seconds() > 2 * QUICK_LAYER_S).isPresent(), CLEAR);
            }
            case THICK_LAYERS -> {
                when(run.recipe().layerHeightMm() > THICK_PER_BORE * run.printer().nozzle().boreMm() + 0.005, CLEAR, "layers of %s mm from a nozzle of %s mm",
                        Spoken.number(run.recipe().layerHeightMm(), 2), Spoken.number(run.printer().nozzle().boreMm(), 2));
                when(shape.shallowShare() > SHALLOW && !run.recipe().lines().variableLayers(), CLEAR, "%s %% of it are shallow slopes", Spoken.number(100 * shape.shallowShare(), 0));
                against(run.recipe().layerHeightMm() < THICK_PER_BORE / 1.5 * run.printer().nozzle().boreMm(), CLEAR);
            }
            case CLOSE_SUPPORTS -> {
                when(run.recipe().propped(), CLEAR, "it was printed on supports");
                against(!run.recipe().propped(), STRONG);
            }
            case TOO_FAST -> when(run.recipe().pace().outerWallMmS() > FAST_WALL_MM_S, CLEAR, "outer walls at %s mm/s", Spoken.number(run.recipe().pace().outerWallMmS(), 0));
            case HEAD_HIT -> {
                when(nearHanging(), CLEAR, "what hangs at %s mm curls up", at());
                layerThere().filter(layer -> layer.seconds() < QUICK_LAYER_S).ifPresent(layer -> clue(SLIGHT, "the layer there is laid in %s s", Spoken.number(layer.seconds(), 0)));
                against(history.beltsDue() || history.otherAlike() > 0, SLIGHT);
            }
            case LOOSE_BELT -> {
                when(history.beltsDue(), STRONG, "tightening the belts is overdue");
                when(othersAlike(), CLEAR, "%d of %d other prints here lately show the same", history.otherAlike(), history.otherRuns());
                against(!history.beltsDue() && history.otherAlike() == 0, CLEAR);
            }
            case NARROW_GAP -> {
                when(shape.narrowestGapMm() < NARROW_MM, STRONG, "its narrowest gap is %s mm", mm(shape.narrowestGapMm()));
                against(shape.narrowestGapMm() > 2 * NARROW_MM, STRONG);
            }
            case TOO_THIN -> {
                when(shape.thinnestWallMm() < THIN_LINES * run.recipe().lineWidthMm(), STRONG, "its thinnest place is %s mm", mm(shape.thinnestWallMm()));
                against(shape.thinnestWallMm() > 2 * THIN_LINES * run.recipe().lineWidthMm(), CLEAR);
                against(run.recipe().propped(), SLIGHT);
            }
            case SUPPORT_IN_LOOP -> {
                when(run.recipe().propped() && shape.thinnestWallMm() < 2 * THIN_LINES * run.recipe().lineWidthMm(), STRONG, "supports had to come out around walls of %s mm",
                        mm(shape.thinnestWallMm()));
                against(!run.recipe().propped(), STRONG);
            }
            case WRONG_UNIT -> {
                when(shape.unitDoubtful(), STRONG, "its unit is doubtful: it is %s mm long", Spoken.number(shape.longestMm(), 1));
                against(!shape.unitDoubtful() && !history.checked(), SLIGHT);
            }
            case WRONG_FILE -> {
                when(!history.checked(), CLEAR, "somebody carried its file there, and nobody has read it back");
                against(history.checked(), STRONG);
            }
            case WRONG_SPOOL, CUT_SHORT -> { }
            case TOO_COLD -> {
                layerThere().filter(layer -> layer.sectionMm2() < LITTLE_SECTION_MM2).ifPresent(layer -> clue(SLIGHT, "only %s mm² hold it together at %s mm", area(layer.sectionMm2()), at()));
                layerThere().filter(LaidLayer::change).ifPresent(layer -> clue(CLEAR, "the filament was changed there"));
                when(history.spoolAlike() > 0, CLEAR, "%d of %d prints from this spool show the same", history.spoolAlike(), history.spoolRuns());
            }
        }
    }

    private void when(boolean holds, double weight, String reason, Object... values) {
        if (holds) {
            clue(weight, reason, values);
        }
    }

    private void clue(double weight, String reason, Object... values) {
        clues.add(new Clue(weight, reason.formatted(values)));
    }

    private void against(boolean holds, double weight) {
        if (holds) {
            clues.add(new Clue(-weight, ""));
        }
    }

    private boolean shows(Defect defect) {
        return signs.stream().anyMatch(sign -> sign.defect() == defect);
    }

    private boolean shows(Defect defect, Site site) {
        return signs.stream().anyMatch(sign -> sign.defect() == defect && sign.site() == site);
    }

    private boolean othersAlike() {
        return history.otherAlike() >= 2;
    }

    private boolean enough() {
        return history.leftG() > history.neededG() * 1.03;
    }

    /** Whether something held it down beyond its own foot. */
    private boolean held() {
        return run.recipe().adhesion() == Adhesion.BRIM || run.recipe().adhesion() == Adhesion.RAFT || run.recipe().adhesion() == Adhesion.EARS;
    }

    private boolean late() {
        return heightMm.isPresent() && heightMm.getAsDouble() > LATE * shape.heightMm();
    }

    private boolean hangs() {
        return shape.freeMm2() > HANGS_MM2;
    }

    private boolean nearHanging() {
        return heightMm.isPresent() && shape.hangsAtMm().stream().anyMatch(mm -> Math.abs(mm - heightMm.getAsDouble()) < NEAR_MM);
    }

    private Optional<LaidLayer> layerThere() {
        return heightMm.isPresent() ? run.layerAt(heightMm.getAsDouble()) : Optional.empty();
    }

    /** The most that its lines ask for, mm³/s. */
    private double flow() {
        return run.recipe().lineAreaMm2(run.recipe().layerHeightMm()) * run.recipe().speedMmS();
    }

    private String at() {
        return Spoken.number(heightMm.orElse(0), 0);
    }

    private static String mm(double value) {
        return Spoken.number(value, 2);
    }

    private static String area(double mm2) {
        return Spoken.number(mm2, mm2 < 10 ? 1 : 0);
    }
}
