package fabbrica.core.run;

import fabbrica.core.recipe.Adhesion;
import fabbrica.core.recipe.BuiltIn;
import fabbrica.core.recipe.Material;
import fabbrica.core.recipe.Nozzle;
import fabbrica.core.recipe.Printer;
import fabbrica.core.recipe.Recipe;
import fabbrica.core.recipe.StartingPoint;
import fabbrica.core.recipe.Supports;
import fabbrica.core.run.Circumstances.History;
import fabbrica.core.run.Circumstances.LaidLayer;
import fabbrica.core.run.Circumstances.Shape;
import java.util.ArrayList;
import java.util.List;
import java.util.Random;
import java.util.Set;
import java.util.stream.IntStream;

/**
 * Prints that failed, made up: for each row of what goes wrong in the trade (a sign and its usual causes; common practice, no source) the signs and the geometry
 * that go with a cause, in a lab that has its share of old spools, unwashed plates and worn nozzles whatever the cause is. One sign in ten is missing, or another
 * is reported in its place.
 */
final class Failures {

    private static final double WRONG_OR_MISSING = 0.1;
    private static final double UNRELATED = 0.12;

    private final Random chance;

    private double heightMm;
    private double contactMm2;
    private double tippingDeg;
    private double longestMm;
    private double freeMm2;
    private List<Double> hangs = List.of();
    private double shallow;
    private double wallMm;
    private double gapMm;
    private boolean unitDoubtful;
    private double quickAtMm;
    private double outerMmS;
    private double speedMmS;
    private double layerMm;
    private double boreMm;
    private Supports.Where supports = Supports.Where.NONE;
    private Material material = BuiltIn.PLA;
    private int sinceWash;
    private boolean levelDue;
    private boolean beltsDue;
    private double nozzleHours;
    private int otherAlike;
    private int openDays;
    private double leftG;
    private double neededG;
    private boolean checked;
    private Double atMm;

    Failures(long seed) {
        chance = new Random(seed);
    }

    /** A failure with what really caused it. */
    record Made(String cause, List<Sign> signs, Circumstances run) {
    }

    /** A row of the table: signs, one of which it shows, and how its geometry or its lab looks. */
    private record Row(String cause, List<Defect> signs, Runnable looks) {
    }

    List<Made> some(int count) {
        List<Row> rows = rows();
        return IntStream.range(0, count).mapToObj(i -> made(rows.get(i % rows.size()))).toList();
    }

    private List<Row> rows() {
        return List.of(
                new Row("DIRTY_PLATE", List.of(Defect.CAME_OFF, Defect.CAME_OFF, Defect.LIFTED), () -> {
                    sinceWash = 14 + chance.nextInt(30);
                    atMm = between(0.4, 0.4 * heightMm);
                }),
                new Row("SMALL_CONTACT", List.of(Defect.CAME_OFF), () -> {
                    heightMm = between(30, 130);
                    contactMm2 = between(8, 85);
                    atMm = between(1, heightMm);
                }),
                new Row("NOT_LEVEL", List.of(Defect.TORN, Defect.TORN, Defect.CAME_OFF), () -> levelDue = true),
                new Row("TALL_AND_THIN", List.of(Defect.KNOCKED_OFF), () -> {
                    heightMm = between(80, 200);
                    tippingDeg = between(1, 7);
                    contactMm2 = between(60, 300);
                    atMm = between(0.55 * heightMm, heightMm);
                }),
                new Row("CLOGGED", List.of(Defect.GAPS), () -> {
                    nozzleHours = between(320, 900);
                    otherAlike = chance.nextInt(4);
                }),
                new Row("SNAGGED", List.of(Defect.GAPS), () -> atMm = between(0.2 * heightMm, 0.9 * heightMm)),
                new Row("SPOOL_EMPTY", List.of(Defect.RAN_OUT, Defect.RAN_OUT, Defect.GAPS), () -> {
                    leftG = neededG * between(0.3, 0.98);
                    atMm = between(0.3 * heightMm, heightMm);
                }),
                new Row("TOO_MUCH_FLOW", List.of(Defect.GAPS), () -> speedMmS = between(1.0, 1.6) * 15 / (layerMm * 1.05 * boreMm)),
                new Row("WET", List.of(Defect.STRINGS), () -> openDays = 35 + chance.nextInt(120)),
                new Row("TOO_HOT", List.of(Defect.STRINGS), () -> openDays = chance.nextInt(12)),
                new Row("WIDE_NOZZLE", List.of(Defect.BLURRED, Defect.BLURRED, Defect.STRINGS), () -> {
                    boreMm = chance.nextBoolean() ? 0.6 : 0.8;
                    layerMm = 0.3;
                    wallMm = between(0.6, 1.1);
                }),
                new Row("NO_SUPPORT", List.of(Defect.DROOPED), () -> {
                    freeMm2 = between(40, 900);
                    hangs = List.of(between(3, heightMm));
                    atMm = hangs.getFirst() + between(0, 1);
                }),
                new Row("POOR_COOLING", List.of(Defect.DROOPED, Defect.ROUGH), () -> {
                    quickAtMm = between(0.5 * heightMm, heightMm);
                    atMm = quickAtMm;
                }),
                new Row("THICK_LAYERS", List.of(Defect.STEPS), () -> shallow = between(0.08, 0.5)),
                new Row("THICK_LAYERS", List.of(Defect.DROOPED, Defect.STEPS), () -> layerMm = 0.28),
                new Row("TOO_FAST", List.of(Defect.ECHOES), () -> outerMmS = between(55, 150)),
                new Row("HEAD_HIT", List.of(Defect.SHIFTED), () -> {
                    hangs = List.of(between(3, heightMm));
                    atMm = hangs.getFirst() + between(0, 1.5);
                }),
                new Row("LOOSE_BELT", List.of(Defect.SHIFTED), () -> {
                    beltsDue = true;
                    atMm = between(1, heightMm);
                }),
                new Row("NARROW_GAP", List.of(Defect.FUSED), () -> gapMm = between(0.08, 0.3)),
                new Row("TOO_THIN", List.of(Defect.SNAPPED), () -> wallMm = between(0.35, 0.75)),
                new Row("SUPPORT_IN_LOOP", List.of(Defect.SNAPPED), () -> {
                    wallMm = between(0.9, 1.5);
                    supports = Supports.Where.EVERYWHERE;
                }),
                new Row("WRONG_UNIT", List.of(Defect.WRONG_SIZE), () -> {
                    unitDoubtful = true;
                    longestMm = between(1, 6);
                }),
                new Row("WRONG_FILE", List.of(Defect.WRONG_SIZE), () -> checked = false));
    }

    private Made made(Row row) {
        ordinary();
        unrelated();
        row.looks().run();
        Defect shown = row.signs().get(chance.nextInt(row.signs().size()));
        List<Sign> signs = new ArrayList<>();
        if (chance.nextDouble() >= WRONG_OR_MISSING) {
            signs.add(new Sign(shown, shown.usualSite(), atMm));
        } else if (chance.nextBoolean()) {
            Defect other = Defect.values()[chance.nextInt(Defect.values().length)];
            signs.add(new Sign(other, other.usualSite(), atMm));
        }
        return new Made(row.cause(), signs, run());
    }

    private void ordinary() {
        heightMm = between(12, 90);
        contactMm2 = between(300, 4000);
        tippingDeg = between(16, 50);
        longestMm = between(20, 110);
        freeMm2 = between(0, 10);
        hangs = List.of();
        shallow = between(0, 0.04);
        wallMm = between(1.8, 6);
        gapMm = between(0.8, 5);
        unitDoubtful = false;
        quickAtMm = Double.NaN;
        outerMmS = between(25, 45);
        speedMmS = between(40, 60);
        layerMm = 0.2;
        boreMm = 0.4;
        supports = Supports.Where.NONE;
        material = chance.nextInt(3) == 0 ? BuiltIn.PETG : BuiltIn.PLA;
        sinceWash = chance.nextInt(12);
        levelDue = false;
        beltsDue = false;
        nozzleHours = between(10, 280);
        otherAlike = 0;
        openDays = 3 + chance.nextInt(26);
        leftG = between(300, 900);
        neededG = between(8, 120);
        checked = true;
        atMm = null;
    }

    /** What is amiss in a lab whether it matters or not. */
    private void unrelated() {
        sinceWash = chance.nextDouble() < UNRELATED ? 20 : sinceWash;
        levelDue = chance.nextDouble() < UNRELATED;
        beltsDue = chance.nextDouble() < UNRELATED;
        nozzleHours = chance.nextDouble() < UNRELATED ? 500 : nozzleHours;
        openDays = chance.nextDouble() < UNRELATED ? 60 : openDays;
        wallMm = chance.nextDouble() < UNRELATED ? 0.7 : wallMm;
        outerMmS = chance.nextDouble() < UNRELATED ? 60 : outerMmS;
        checked = chance.nextDouble() >= UNRELATED;
        freeMm2 = chance.nextDouble() < UNRELATED ? 60 : freeMm2;
    }

    private Circumstances run() {
        Printer like = BuiltIn.printer("standard").orElseThrow();
        Printer printer = like.with(new Nozzle(boreMm, true));
        Recipe recipe = StartingPoint.DAILY_BREAD.recipe(printer.nozzle(), printer.kinematics()).withLayerHeight(layerMm, layerMm).with(Adhesion.SKIRT)
                .with(Supports.NONE.with(supports));
        recipe = recipe.faster(speedMmS / recipe.speedMmS());
        recipe = recipe.with(recipe.pace().withOuterWall(outerMmS));
        List<LaidLayer> layers = IntStream.range(0, (int) (heightMm / layerMm)).mapToObj(i -> layerMm * (i + 1)).map(top -> new LaidLayer(top,
                Math.abs(top - quickAtMm) < 3 ? between(4, 9) : between(28, 60), 200, false)).toList();
        return new Circumstances(new Shape(heightMm, contactMm2, tippingDeg, longestMm, freeMm2, hangs, shallow, wallMm, gapMm, unitDoubtful), layers, recipe, material, printer,
                new History(sinceWash, levelDue, beltsDue, nozzleHours, 6, otherAlike, 4, 0, openDays, leftG, neededG, checked), Set.of(), false);
    }

    private double between(double least, double most) {
        return least + chance.nextDouble() * (most - least);
    }
}
