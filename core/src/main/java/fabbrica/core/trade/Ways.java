package fabbrica.core.trade;

import fabbrica.core.recipe.Adhesion;
import fabbrica.core.recipe.Material;
import fabbrica.core.recipe.Nozzle;
import fabbrica.core.recipe.Printer;
import fabbrica.core.recipe.Recipe;
import fabbrica.core.recipe.StartingPoint;
import fabbrica.core.recipe.Supports;
import fabbrica.core.units.Spoken;
import java.util.ArrayList;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Set;

/**
 * The ways of printing a part that are worth a look, each a change or two away from the plan: layer heights within the
 * nozzle's window, half the bore and the steps that vertical screws like among them; fewer or wider walls that stay about
 * 1 mm thick; the schools of infill; speeds; supports or none; another pose; a smaller size; other nozzles of the stock;
 * other printers. Figures are common practice, no source.
 */
public final class Ways {

    private static final double SCREW_STEP_MM = 0.04;
    private static final double HIDES_INFILL_MM = 1.0;
    private static final double[] SCHOOLS = {0.05, 0.10, 0.15, 0.20};
    private static final double[] SPEEDS = {0.75, 1.25, 1.5};
    private static final double[] SIZES = {0.75, 0.5};
    /** Heating, unscrewing, tightening hot, levelling. */
    private static final double NOZZLE_SWAP_S = 900;

    private final Way plan;
    private final Material material;
    private final boolean hangs;
    private final List<Way> ways = new ArrayList<>();

    private Ways(Way plan, Material material, boolean hangs) {
        this.plan = plan;
        this.material = material;
        this.hangs = hangs;
    }

    /**
     * @param hangs   whether parts of it hang free as it lies
     * @param turns   whether another pose than the one it lies in is better
     * @param nozzles in stock, for the same printer
     * @param others  printers on which it fits
     * @return the plan first, none twice
     */
    public static List<Way> of(Printer printer, Recipe recipe, Material material, boolean hangs, boolean turns,
                               List<Nozzle> nozzles, List<Printer> others) {
        Ways ways = new Ways(new Way(printer, recipe, false, 1, "as planned", 0), material, hangs);
        ways.ways.add(ways.plan);
        ways.changeLayers();
        ways.changeInside();
        ways.changeSpeed();
        ways.hurry();
        ways.changeSupports();
        if (turns) {
            ways.changePose();
        }
        ways.changeSize();
        nozzles.forEach(ways::changeNozzle);
        others.forEach(ways::changePrinter);
        Set<List<Object>> seen = new LinkedHashSet<>();
        return ways.ways.stream().filter(way -> seen.add(List.of(way.printer(), way.recipe(), way.turned(), way.scale())))
                .toList();
    }

    private void changeLayers() {
        Nozzle nozzle = plan.printer().nozzle();
        double planned = plan.recipe().layerHeightMm();
        Set<Long> hundredths = new LinkedHashSet<>();
        hundredths.add(Math.round(nozzle.boreMm() * 50));
        for (double height = 2 * SCREW_STEP_MM; height <= nozzle.thickestLayerMm() + 1e-9; height += SCREW_STEP_MM) {
            hundredths.add(Math.round(height * 100));
        }
        hundredths.stream().map(h -> h / 100.0).filter(nozzle::canLay)
                .filter(height -> Math.abs(height - planned) > SCREW_STEP_MM * 0.8 && height <= plan.recipe().lineWidthMm())
                .sorted().forEach(height -> ways.add(plan.with(layers(plan.recipe(), height),
                        "layers of %s mm".formatted(mm(height)))));
        if (!plan.recipe().lines().variableLayers()) {
            ways.add(plan.with(plan.recipe().with(plan.recipe().lines().withVariableLayers(true)),
                    "layers as the slope asks"));
        }
    }

    private static Recipe layers(Recipe recipe, double height) {
        return recipe.withLayerHeight(height, Math.max(recipe.firstLayerHeightMm(), height));
    }

    private void changeInside() {
        Recipe recipe = plan.recipe();
        double width = recipe.lineWidthMm(), wide = Math.round(plan.printer().nozzle().boreMm() * 130) / 100.0;
        if (recipe.walls() > 1 && (recipe.walls() - 1) * width >= HIDES_INFILL_MM - 0.05) {
            ways.add(plan.with(recipe.withWalls(recipe.walls() - 1, width), walls(recipe.walls() - 1, width)));
        }
        int fewer = (int) Math.ceil(HIDES_INFILL_MM / wide - 0.05);
        if (wide > width + 0.02) {
            ways.add(plan.with(recipe.withWalls(fewer, wide), walls(fewer, wide)));
        }
        for (double density : SCHOOLS) {
            if (Math.abs(density - recipe.infill()) > 0.02) {
                ways.add(plan.with(recipe.withInfill(density), "%s infill".formatted(percent(density))));
            }
        }
    }

    private static String walls(int count, double width) {
        return "%s of %s mm wall".formatted(Spoken.count(count, "line"), mm(width));
    }

    private void changeSpeed() {
        for (double factor : SPEEDS) {
            Recipe faster = plan.recipe().faster(factor);
            if (faster.speedMmS() <= plan.printer().kinematics().maxSpeedMmS()) {
                ways.add(plan.with(faster, "at %s mm/s".formatted(Spoken.number(faster.speedMmS(), 0))));
            }
        }
    }

    /** Several savings at once, for what has to be ready soon. */
    private void hurry() {
        double coarse = Math.floor(plan.printer().nozzle().thickestLayerMm() * 50 + 1e-9) / 50;
        double middle = Math.round((coarse + plan.recipe().layerHeightMm()) * 25) / 50.0;
        double density = Math.min(plan.recipe().infill(), 0.1);
        for (double height : new double[] {middle, coarse}) {
            if (height > plan.recipe().layerHeightMm() + 0.01 && height <= plan.recipe().lineWidthMm()) {
                ways.add(plan.with(layers(plan.recipe(), height).withInfill(density),
                        "layers of %s mm and %s infill".formatted(mm(height), percent(density))));
            }
        }
    }

    private void changeSupports() {
        boolean planned = plan.recipe().supports().any();
        if (planned) {
            ways.add(plan.with(plan.recipe().with(Supports.NONE), "no supports"));
        } else if (hangs) {
            ways.add(plan.with(plan.recipe().with(Supports.of(Supports.Where.BED)), "supports from the bed"));
        }
    }

    private void changePose() {
        Recipe recipe = plan.recipe().with(Supports.NONE).with(plan.recipe().lines().withZones(List.of()));
        ways.add(new Way(plan.printer(), recipe.adhesion() == Adhesion.RAFT ? recipe : recipe.with(Adhesion.BRIM), true, 1,
                "lying another way", 0));
    }

    private void changeSize() {
        for (double size : SIZES) {
            ways.add(new Way(plan.printer(), plan.recipe().scaled(size), false, size, "at %s of the size".formatted(percent(size)), 0));
        }
    }

    private void changeNozzle(Nozzle nozzle) {
        if (Math.abs(nozzle.boreMm() - plan.printer().nozzle().boreMm()) > 0.02
                && (nozzle.hardened() || !material.abrasive())) {
            Printer printer = plan.printer().with(nozzle);
            ways.add(new Way(printer, usual(printer), false, 1, "nozzle of %s mm, layers of %s mm".formatted(
                    mm(nozzle.boreMm()), mm(usual(printer).layerHeightMm())), NOZZLE_SWAP_S));
        }
    }

    private void changePrinter(Printer printer) {
        Recipe recipe = usual(printer);
        if (printer.nozzle().canLay(plan.recipe().layerHeightMm())) {
            recipe = layers(recipe, plan.recipe().layerHeightMm());
        }
        ways.add(new Way(printer, recipe, false, 1, "on %s".formatted(printer.name()), 0));
    }

    /** What the plan's purpose asks of another nozzle or printer: as much inside, the same supports and bed. */
    private Recipe usual(Printer printer) {
        Recipe planned = plan.recipe();
        return StartingPoint.DAILY_BREAD.recipe(printer.nozzle(), printer.kinematics()).withInfill(planned.infill())
                .with(planned.supports()).with(planned.adhesion()).with(planned.lines());
    }

    private static String mm(double value) {
        return Spoken.number(value, 2);
    }

    private static String percent(double part) {
        return Spoken.number(part * 100, 0) + " %";
    }
}
