package fabbrica.core.gcode;

import static fabbrica.core.inspect.Severity.BLOCK;
import static fabbrica.core.inspect.Severity.CARE;
import static fabbrica.core.inspect.Severity.NOTE;

import fabbrica.core.bed.Bed;
import fabbrica.core.inspect.Finding;
import fabbrica.core.inspect.Finding.Code;
import fabbrica.core.inspect.Severity;
import fabbrica.core.mesh.model.Bounds;
import fabbrica.core.recipe.Material;
import fabbrica.core.recipe.Printer;
import fabbrica.core.recipe.Spool;
import fabbrica.core.units.Spoken;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;

/**
 * Whether a file that somebody sliced elsewhere is for this printer and this spool: judged by what it does, worst first.
 * What its comments say of themselves is taken as a hint only. Tolerances are common practice, no source.
 */
public final class SlicedFileFindings {

    private static final double EDGE_MM = 0.5;
    private static final double CLOSE_C = 15;
    private static final double FAR_C = 35;
    /** Cross-sections of lines that a nozzle can lay, mm². */
    private static final double THINNEST_MM2 = 0.003;
    private static final double THICKEST_PER_SQUARE_BORE = 6;
    private static final double FLOW_OVER = 1.05;
    private static final Pattern NUMBER = Pattern.compile("\\d+(\\.\\d+)?");

    private final Replay replay;
    private final Printer printer;
    private final List<Finding> findings = new ArrayList<>();

    private SlicedFileFindings(Replay replay, Printer printer) {
        this.replay = replay;
        this.printer = printer;
    }

    /** @param spool null when none is chosen yet */
    public static List<Finding> of(Replay replay, Printer printer, Material material, @Nullable Spool spool) {
        SlicedFileFindings judged = new SlicedFileFindings(replay, printer);
        judged.judgePrinter();
        judged.judgeMaterial("nozzle", replay.hottestNozzle(), material.nozzleC(), printer.maxNozzleC(), material);
        judged.judgeMaterial("bed", replay.hottestBed(), material.bedC(), printer.maxBedC(), material);
        judged.judgeSpool(material, spool);
        return judged.worstFirst();
    }

    /** What can be said before a material is chosen. */
    public static List<Finding> of(Replay replay, Printer printer) {
        SlicedFileFindings judged = new SlicedFileFindings(replay, printer);
        judged.judgePrinter();
        return judged.worstFirst();
    }

    /** The material that wants about the temperatures that the file sets; nothing when there is none to choose from. */
    public static Optional<Material> likeliest(Replay replay, List<Material> materials) {
        return materials.stream().min(Comparator.comparingDouble(material ->
                Math.abs(material.nozzleC() - replay.hottestNozzle()) + Math.abs(material.bedC() - replay.hottestBed())));
    }

    private List<Finding> worstFirst() {
        findings.sort(Comparator.comparing(Finding::severity));
        return List.copyOf(findings);
    }

    private void judgePrinter() {
        Bounds printed = replay.printed();
        if (printed == null) {
            add(Code.NOTHING_LAID, BLOCK, 1, "The file lays no line of plastic.",
                    "A printer would move, or do nothing, and come out with an empty bed.",
                    "Ask for the model instead, or export the file again.");
        } else {
            judgeBounds(printed);
            judgePassages();
            judgeStart();
            judgeFilament();
        }
        judgeHeat("nozzle", replay.hottestNozzle(), printer.maxNozzleC());
        judgeHeat("bed", replay.hottestBed(), printer.maxBedC());
        judgeHints();
        judgeCodes();
        judgeCautions();
    }

    private void judgeBounds(Bounds box) {
        Bed bed = printer.bed();
        if (box.minX() < -EDGE_MM || box.minY() < -EDGE_MM || box.maxX() > bed.widthMm() + EDGE_MM
                || box.maxY() > bed.depthMm() + EDGE_MM || box.maxZ() > bed.heightMm()) {
            add(Code.OFF_BED, BLOCK, 1, "It prints from %s to %s mm across, %s to %s mm deep and up to %s mm high; %s reaches %s."
                            .formatted(mm(box.minX()), mm(box.maxX()), mm(box.minY()), mm(box.maxY()), mm(box.maxZ()),
                                    printer.name(), Spoken.size(bed.widthMm(), bed.depthMm(), bed.heightMm())),
                    "The head would run against its stops and print in the wrong place: the file was made for another "
                            + "printer.", "Have it made for this printer, or bring the model and let it be made here.");
            return;
        }
        if (replay.onKeepOut() > 0) {
            add(Code.OFF_BED, BLOCK, replay.onKeepOut(), "It prints where the bed is to be kept free, in %s.".formatted(
                            Spoken.count(replay.onKeepOut(), "place")),
                    "The purge block or a clip stands there, and the head would run into it.",
                    "Have it made for this printer.");
        }
    }

    private void judgePassages() {
        if (replay.onKeepOut() == 0 && !replay.passages().isEmpty()) {
            Replay.Passage first = replay.passages().getFirst();
            add(Code.OFF_BED, CARE, replay.passages().size(), ("It drives the head straight through what is to be kept free, %s mm above the bed, in "
                            + "line %s.").formatted(mm(first.heightMm()), Spoken.count(first.line())),
                    "If what stands there is higher, the head runs into it.", "Have it made for this printer, or clear the place.");
        }
    }

    private void judgeStart() {
        if (replay.beforeHoming() > 0) {
            add(Code.FIRST_MOVE, CARE, replay.beforeHoming(), "It moves %s before it homes the axes.".formatted(
                            replay.beforeHoming() == 1 ? "once" : Spoken.count(replay.beforeHoming()) + " times"),
                    "Without homing the printer does not know where its head is and may run into its frame or its bed.",
                    "Only run it where the printer homes by itself; else have it made for this printer.");
        }
        if (replay.cold()) {
            add(Code.FIRST_MOVE, BLOCK, 1, "It lays filament before the nozzle is told to heat.",
                    "Cold filament is ground down by the feeder; most printers refuse.",
                    "Have it made with a start that heats.");
        }
    }

    private void judgeFilament() {
        double area = replay.totalFilamentMm() * printer.filamentAreaMm2() / Math.max(1, replay.laidMm());
        if (area < THINNEST_MM2 || area > THICKEST_PER_SQUARE_BORE * Math.pow(printer.nozzle().boreMm(), 2) || replay.backwards() > replay.layers().size() * 50L) {
            add(Code.AXES_MIXED, BLOCK, 1, "Its lines would be %s mm² thick on average%s.".formatted(
                            Spoken.number(area, 4), replay.backwards() > 0 ? ", and %s pull filament back while they print"
                                    .formatted(Spoken.count(replay.backwards(), "move")) : ""),
                    "Amounts of filament that are read as absolute where they were meant step by step, or the other way "
                            + "about, come out as nothing or as a flood.",
                    "Have the file made again; it does not say how its amounts are meant.");
        }
        if (replay.fastestFlow() > printer.kinematics().maxFlowMm3S() * FLOW_OVER) {
            add(Code.TOO_MUCH_FLOW, CARE, 1, "It asks for up to %s mm³/s; the hot end melts %s.".formatted(
                            Spoken.number(replay.fastestFlow(), 1), Spoken.number(printer.kinematics().maxFlowMm3S(), 1)),
                    "What does not melt in time leaves gaps, or the feeder slips.",
                    "Slow it down at the printer, or have it made with a lower speed.");
        }
        if (replay.filamentMm().size() > 1 || !replay.filamentMm().containsKey(0)) {
            add(Code.WRONG_TOOL, BLOCK, replay.filamentMm().size(), "It prints with the tools %s.".formatted(
                            replay.filamentMm().keySet().stream().map(tool -> "T" + tool).collect(Collectors.joining(", "))),
                    "This printer has one nozzle and one filament.", "Have it made for one filament.");
        }
    }

    private void judgeHeat(String part, double set, int most) {
        if (set > most) {
            add(Code.WRONG_TEMPERATURE, BLOCK, 1, "It heats the %s to %s °C; this one may reach %d °C.".formatted(part,
                            Spoken.number(set, 0), most), "Beyond its limit a heater stops the print, or worse.",
                    "Have it made for this printer.");
        }
    }

    private void judgeMaterial(String part, double set, int wanted, int most, Material material) {
        if (set > most) {
            return;
        }
        if (set == 0 && wanted > 40) {
            add(Code.WRONG_TEMPERATURE, CARE, 1, "It never heats the %s; %s wants %d °C.".formatted(part, material.name(),
                    wanted), "Cold plastic neither flows nor sticks.", "Heat it by hand first, or have it made again.");
        } else if (Math.abs(set - wanted) > CLOSE_C) {
            add(Code.WRONG_TEMPERATURE, Math.abs(set - wanted) > FAR_C ? BLOCK : CARE, 1,
                    "It heats the %s to %s °C; %s wants about %d °C.".formatted(part, Spoken.number(set, 0),
                            material.name(), wanted),
                    "Another material was meant: too cold it clogs, too hot it burns and gives off fumes.",
                    "Ask which filament it was made for. The label on the reel comes first.");
        }
    }

    private void judgeHints() {
        hint("filament", "diameter").ifPresent(diameter -> {
            if (Math.abs(diameter - printer.filamentMm()) > 0.2) {
                add(Code.WRONG_FILAMENT, BLOCK, 1, "It says it was made for filament of %s mm; this printer takes %s mm."
                                .formatted(mm(diameter), mm(printer.filamentMm())),
                        "Of thicker filament far too much comes out, of thinner far too little.",
                        "Have it made for the right diameter.");
            }
        });
        hint("nozzle", "diameter").ifPresent(bore -> {
            if (Math.abs(bore - printer.nozzle().boreMm()) > 0.05) {
                add(Code.WRONG_NOZZLE, CARE, 1, "It says it was made for a nozzle of %s mm; %s mm is mounted.".formatted(
                                mm(bore), mm(printer.nozzle().boreMm())),
                        "Lines come out too thick or with gaps between them.", "Mount that nozzle, or have it made anew.");
            }
        });
        replay.hints().entrySet().stream().filter(hint -> hint.getKey().matches(".*(printer|machine).*(name|model|type)?")
                        && !hint.getValue().isBlank() && hint.getValue().length() < 60).findFirst()
                .filter(hint -> !hint.getValue().equalsIgnoreCase(printer.name())
                        && !hint.getValue().equalsIgnoreCase(printer.id()))
                .ifPresent(hint -> add(Code.OTHER_PRINTER, NOTE, 1, "It says it was made for “%s”.".formatted(hint.getValue()),
                        "A name in a comment proves nothing, but is worth a question.",
                        "Compare it with the printer it is to run on."));
    }

    /** The first number of the first hint whose name has both words. */
    private Optional<Double> hint(String word, String other) {
        return replay.hints().entrySet().stream()
                .filter(hint -> hint.getKey().contains(word) && hint.getKey().contains(other)).map(Map.Entry::getValue)
                .map(NUMBER::matcher).filter(Matcher::find).map(number -> Double.parseDouble(number.group())).findFirst();
    }

    private void judgeSpool(Material material, @Nullable Spool spool) {
        double grams = material.grams(replay.totalFilamentMm() * printer.filamentAreaMm2());
        if (spool != null && grams > spool.remainingG()) {
            add(Code.SPOOL_SHORT, BLOCK, 1, "It takes %s; %s are left on the spool.".formatted(Spoken.grams(grams),
                    Spoken.grams(Math.max(0, spool.remainingG()))), "It would run out before the end.",
                    "Choose a fuller spool.");
        }
    }

    private void judgeCodes() {
        if (replay.faultCount() > 0) {
            add(Code.MALFORMED, replay.faultCount() > 20 ? BLOCK : CARE, replay.faultCount(),
                    "%s make no sense: %s%s.".formatted(Spoken.count(replay.faultCount(), "line"),
                            String.join("; ", replay.faults().subList(0, Math.min(3, replay.faults().size()))),
                            replay.faultCount() > 3 ? "; and more" : ""),
                    "The file may be damaged; what a printer makes of such lines is its own affair.",
                    "Have it exported again.");
        }
        if (!replay.unknown().isEmpty()) {
            int count = replay.unknown().values().stream().mapToInt(Integer::intValue).sum();
            add(Code.UNKNOWN_CODES, NOTE, count, "Codes that are not known here: %s.".formatted(replay.unknown().entrySet()
                            .stream().limit(12).map(code -> code.getKey() + " × " + code.getValue())
                            .collect(Collectors.joining(", "))),
                    "They were passed over: what they do and how long it takes is not in the figures.",
                    "Look them up in the manual of the printer it is to run on.");
        }
    }

    private void judgeCautions() {
        for (Cautions.Caution caution : replay.cautions()) {
            add(Code.READ_WITH_CARE, caution.atLeast() ? CARE : NOTE, caution.count(), caution.sentence(),
                    "A printer may do something else there than was worked out here.",
                    caution.atLeast() ? "Allow for more time, or have the file made again." : "Watch the first layers.");
        }
    }

    private void add(Code code, Severity severity, long count, String message, String why, String advice) {
        findings.add(Finding.everywhere(code, severity, count, message, why, advice));
    }

    private static String mm(double value) {
        return Spoken.number(value, 2);
    }
}
