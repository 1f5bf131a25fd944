package fabbrica.core.gcode;

import fabbrica.core.gcode.Replay.LayerRead;
import fabbrica.core.gcode.Replay.Wait;
import fabbrica.core.mesh.model.Bounds;
import fabbrica.core.motion.Planner;
import fabbrica.core.recipe.Cornering;
import fabbrica.core.recipe.Preparation;
import fabbrica.core.recipe.Printer;
import fabbrica.core.toolpath.PathType;
import java.util.ArrayList;
import java.util.EnumMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.SortedMap;
import java.util.TreeMap;
import java.util.regex.Pattern;

/** Carries out G-code line by line on a printer that is only thought of. */
final class Interpreter {

    private static final double INCH_MM = 25.4;
    /** Arcs are walked in chords that stray from them by no more than this. */
    private static final double CHORD_MM = 0.01;
    private static final double SAME_LAYER_MM = 0.005;
    private static final int MOST_FAULTS = 20;
    private static final int MOST_HINTS = 400;
    private static final double FLOW_OVER_MM = 1;
    private static final String PNG_BASE64 = "iVBORw0KGgo";
    private static final Pattern BASE64 = Pattern.compile("[A-Za-z0-9+/]+");
    private static final Pattern PNG_END = Pattern.compile("(SUVORK5CYII=|lFTkSuQmCC|JRU5ErkJggg==)$");
    private static final int LARGEST_PICTURE = 400_000;

    private final Printer printer;
    private final GcodeLayers.Sketch sketch;
    private final Planner planner;
    private final Map<Wait, Double> waits = new EnumMap<>(Wait.class);
    private final SortedMap<Integer, Double> filament = new TreeMap<>();
    private final List<LayerRead> layers = new ArrayList<>();
    private final SortedMap<String, Integer> unknown = new TreeMap<>();
    private final List<String> faults = new ArrayList<>();
    private final Map<String, String> hints = new LinkedHashMap<>();
    private final StringBuilder picture = new StringBuilder();
    private final Heater bed;
    private final Heater nozzle;
    private final double[] box = {Double.POSITIVE_INFINITY, Double.POSITIVE_INFINITY, Double.POSITIVE_INFINITY,
        Double.NEGATIVE_INFINITY, Double.NEGATIVE_INFINITY, Double.NEGATIVE_INFINITY};

    private boolean pictureDone;
    private double unit = 1;
    private boolean relative;
    private boolean relativeE;
    /** Where the head is in machine coordinates, and what G92 added to those in the file. */
    private double x;
    private double y;
    private double z;
    private double e;
    private double shiftX;
    private double shiftY;
    private double shiftZ;
    private double speed = 25;
    private double speedFactor = 1;
    private double flowFactor = 1;
    private double acceleration;
    private int tool;
    private PathType type = PathType.OTHER;
    private double layerZ = Double.NaN;
    private double layerHeight;
    private boolean liftedSinceLaid = true;
    private boolean homed;
    private boolean cold;
    private long beforeHoming;
    private long onKeepOut;
    private long backwards;
    private long faultCount;
    private double fastestFlow;
    private double laid;

    /** Warms at a constant rate from when it is told to. */
    private static final class Heater {

        private final double perSecond;
        private double reached = Preparation.ROOM_C;
        private double target;
        private double since;
        private double hottest;

        Heater(double perSecond) {
            this.perSecond = perSecond;
        }

        void set(double celsius, double now) {
            reached = at(now);
            target = celsius;
            since = now;
            hottest = Math.max(hottest, celsius);
        }

        /** Seconds until the target is reached; cooling is not waited for. */
        double wait(double now) {
            return Math.max(0, target - at(now)) / perSecond;
        }

        private double at(double now) {
            return target <= reached ? Math.max(target, Preparation.ROOM_C)
                    : Math.min(target, reached + (now - since) * perSecond);
        }
    }

    /** @param sketch takes down what is drawn; null when nobody looks */
    Interpreter(Printer printer, GcodeLayers.Sketch sketch) {
        this.printer = printer;
        this.sketch = sketch;
        this.planner = new Planner(printer);
        this.acceleration = printer.kinematics().accelerationMmS2();
        this.bed = new Heater(printer.preparation().bedCPerS());
        this.nozzle = new Heater(printer.preparation().nozzleCPerS());
        planner.at(0, 0, 0);
    }

    Replay replay() {
        planner.stop();
        Bounds printed = box[0] > box[3] ? null : new Bounds(box[0], box[1], box[2], box[3], box[4], box[5]);
        return new Replay(waits, planner, filament, printed, List.copyOf(layers), nozzle.hottest, bed.hottest,
                fastestFlow, beforeHoming, cold, onKeepOut, backwards, laid, unknown, List.copyOf(faults), faultCount, hints,
                pictureDone ? picture.toString() : "");
    }

    void accept(GcodeLine line) {
        if (line.fault() != null) {
            faultCount++;
            if (faults.size() < MOST_FAULTS) {
                String text = line.text();
                faults.add("line %d, %s: %s".formatted(line.number(), line.fault(),
                        text.length() > 80 ? text.substring(0, 80) + "…" : text));
            }
        } else if (line.letter() == 'G') {
            g(line);
        } else if (line.letter() == 'M') {
            m(line);
        } else if (line.letter() == 'T') {
            tool = line.code();
        } else if (line.words != 0) {
            move(line);
        }
        if (line.hasComment() && (line.letter() == 0 || hints.size() < MOST_HINTS)) {
            comment(line);
        }
    }

    private void g(GcodeLine line) {
        switch (line.code()) {
            case 0, 1 -> move(line);
            case 2, 3 -> arc(line, line.code() == 2);
            case 4 -> waitFor(Wait.DWELL, line.has('P') ? line.value('P', 0) / 1000 : line.value('S', 0));
            case 10 -> firmwareRetract(-1);
            case 11 -> firmwareRetract(1);
            case 20 -> unit = INCH_MM;
            case 21 -> unit = 1;
            case 28 -> home(line);
            case 29 -> waitFor(Wait.LEVEL, printer.preparation().levellingS() + printer.preparation().flowS());
            case 90 -> {
                relative = false;
                relativeE = false;
            }
            case 91 -> {
                relative = true;
                relativeE = true;
            }
            case 92 -> setPosition(line);
            case 17, 18, 19, 80 -> {
            }
            default -> unknown(line);
        }
    }

    private void m(GcodeLine line) {
        switch (line.code()) {
            case 82 -> relativeE = false;
            case 83 -> relativeE = true;
            case 104 -> nozzle.set(line.value('S', line.value('R', 0)), now());
            case 109 -> heat(nozzle, Wait.HEAT_NOZZLE, line);
            case 140 -> bed.set(line.value('S', line.value('R', 0)), now());
            case 190 -> heat(bed, Wait.HEAT_BED, line);
            case 204 -> acceleration = Math.clamp(line.value('P', line.value('S', acceleration)), 1,
                    printer.kinematics().accelerationMmS2());
            case 205 -> corner(line);
            case 220 -> speedFactor = line.value('S', 100) / 100;
            case 221 -> flowFactor = line.value('S', 100) / 100;
            case 240 -> waitFor(Wait.PICTURE, printer.preparation().pictureS());
            case 600 -> waitFor(Wait.CHANGE, printer.preparation().changeS());
            case 0, 1, 2, 17, 18, 20, 21, 23, 24, 25, 27, 28, 29, 30, 31, 73, 84, 85, 92, 105, 106, 107, 108, 110, 111,
                 112, 114, 115, 117, 118, 119, 120, 121, 141, 155, 191, 200, 201, 202, 203, 206, 207, 208, 209, 211,
                 218, 226, 300, 301, 302, 304, 350, 400, 401, 402, 413, 420, 500, 501, 502, 503, 569, 572, 593,
                 851, 862, 900, 906, 907, 913, 914 -> {
            }
            default -> unknown(line);
        }
    }

    private void unknown(GcodeLine line) {
        unknown.merge("" + line.letter() + line.code(), 1, Integer::sum);
    }

    private void corner(GcodeLine line) {
        planner.stop();
        if (line.has('J') && line.value('J', 0) > 0) {
            planner.corners(new Cornering.Deviation(Math.clamp(line.value('J', 0), 0.001, 1)));
        } else if (line.has('X') && line.value('X', 0) > 0) {
            planner.corners(new Cornering.Jerk(Math.clamp(line.value('X', 0), 0.1, 200)));
        }
    }

    private double now() {
        planner.stop();
        return planner.totalSeconds() + waits.values().stream().mapToDouble(Double::doubleValue).sum();
    }

    private void heat(Heater heater, Wait wait, GcodeLine line) {
        double now = now();
        heater.set(line.value('S', line.value('R', heater.target)), now);
        waitFor(wait, heater.wait(now));
    }

    private void waitFor(Wait wait, double seconds) {
        planner.stop();
        if (seconds > 0) {
            waits.merge(wait, seconds, Double::sum);
        }
    }

    private void home(GcodeLine line) {
        waitFor(Wait.HOME, printer.preparation().homingS());
        boolean all = !line.has('X') && !line.has('Y') && !line.has('Z');
        homed = true;
        if (all || line.has('X')) {
            x = 0;
            shiftX = 0;
        }
        if (all || line.has('Y')) {
            y = 0;
            shiftY = 0;
        }
        if (all || line.has('Z')) {
            z = 0;
            shiftZ = 0;
        }
        planner.at(x, y, z);
    }

    private void setPosition(GcodeLine line) {
        boolean all = !line.has('X') && !line.has('Y') && !line.has('Z') && !line.has('E');
        shiftX = all || line.has('X') ? x - line.value('X', 0) * unit : shiftX;
        shiftY = all || line.has('Y') ? y - line.value('Y', 0) * unit : shiftY;
        shiftZ = all || line.has('Z') ? z - line.value('Z', 0) * unit : shiftZ;
        e = all || line.has('E') ? line.value('E', 0) * unit : e;
    }

    private void firmwareRetract(int sign) {
        planner.filament(printer.kinematics().retractionMm() * sign, printer.kinematics().retractionSpeedMmS());
    }

    private double target(GcodeLine line, char word, double from, double shift) {
        if (!line.has(word)) {
            return from;
        }
        double value = line.value(word, 0) * unit;
        return relative ? from + value : value + shift;
    }

    private double filamentStep(GcodeLine line) {
        if (!line.has('E')) {
            return 0;
        }
        double value = line.value('E', 0) * unit, step = relativeE ? value : value - e;
        e = relativeE ? e : value;
        return step * flowFactor;
    }

    private void move(GcodeLine line) {
        if (line.has('F')) {
            speed = Math.max(0.01, line.value('F', 0) * unit / 60);
        }
        double toX = target(line, 'X', x, shiftX), toY = target(line, 'Y', y, shiftY), toZ = target(line, 'Z', z, shiftZ);
        step(toX, toY, toZ, filamentStep(line), line.number());
    }

    private void arc(GcodeLine line, boolean clockwise) {
        if (line.has('F')) {
            speed = Math.max(0.01, line.value('F', 0) * unit / 60);
        }
        double toX = target(line, 'X', x, shiftX), toY = target(line, 'Y', y, shiftY), toZ = target(line, 'Z', z, shiftZ);
        double filamentMm = filamentStep(line), centreX, centreY;
        if (line.has('R')) {
            double radius = line.value('R', 0) * unit, dx = toX - x, dy = toY - y, chord = Math.hypot(dx, dy);
            double high = Math.sqrt(Math.max(0, radius * radius - chord * chord / 4)) / Math.max(1e-9, chord);
            double side = clockwise == radius > 0 ? -1 : 1;
            centreX = (x + toX) / 2 - side * high * dy;
            centreY = (y + toY) / 2 + side * high * dx;
        } else {
            centreX = x + line.value('I', 0) * unit;
            centreY = y + line.value('J', 0) * unit;
        }
        double radius = Math.hypot(x - centreX, y - centreY);
        double from = Math.atan2(y - centreY, x - centreX), to = Math.atan2(toY - centreY, toX - centreX);
        double sweep = clockwise ? from - to : to - from;
        sweep = sweep <= 1e-9 ? sweep + 2 * Math.PI : sweep;
        double widest = 2 * Math.acos(Math.clamp(1 - CHORD_MM / Math.max(CHORD_MM, radius), -1, 1));
        int chords = (int) Math.clamp(Math.ceil(sweep / widest), 1, 10_000);
        double fromX = x, fromZ = z;
        for (int i = 1; i <= chords; i++) {
            double part = (double) i / chords, angle = from + (clockwise ? -sweep : sweep) * part;
            boolean last = i == chords;
            step(last ? toX : centreX + radius * Math.cos(angle), last ? toY : centreY + radius * Math.sin(angle),
                    fromZ + (toZ - fromZ) * part, filamentMm / chords, line.number());
        }
    }

    private void step(double toX, double toY, double toZ, double filamentMm, long lineNumber) {
        double dx = toX - x, dy = toY - y, dz = toZ - z;
        boolean across = dx != 0 || dy != 0;
        double wanted = Math.min(speed * speedFactor, printer.kinematics().maxSpeedMmS());
        if (filamentMm != 0) {
            filament.merge(tool, filamentMm, Double::sum);
            cold |= nozzle.hottest == 0 && filamentMm > 0;
        }
        if (!across && dz == 0) {
            if (filamentMm != 0) {
                planner.filament(filamentMm, wanted);
            }
            return;
        }
        beforeHoming += homed ? 0 : 1;
        double length = Math.sqrt(dx * dx + dy * dy + dz * dz);
        if (dz != 0) {
            wanted = Math.min(wanted, printer.kinematics().zSpeedMmS() * length / Math.abs(dz));
        }
        if (across && filamentMm > 0) {
            double mm3 = filamentMm * printer.filamentAreaMm2();
            laid += length;
            beginLayer(toZ, lineNumber);
            widen(x, y, toZ);
            widen(toX, toY, toZ);
            onKeepOut += printer.bed().keepsFree(toX, toY) ? 1 : 0;
            if (length >= FLOW_OVER_MM) {
                fastestFlow = Math.max(fastestFlow, mm3 / length * wanted);
            }
            planner.lineTo(toX, toY, toZ, mm3, wanted, acceleration, type);
            sketch(toX, toY, mm3 / Math.max(1e-9, length), wanted, type);
        } else {
            backwards += across && filamentMm < 0 ? 1 : 0;
            liftedSinceLaid |= dz != 0;
            planner.lineTo(toX, toY, toZ, 0, wanted, acceleration, PathType.TRAVEL);
            sketch(toX, toY, 0, wanted, PathType.TRAVEL);
        }
        x = toX;
        y = toY;
        z = toZ;
    }

    private void sketch(double toX, double toY, double area, double mmS, PathType ofType) {
        if (sketch != null && (toX != x || toY != y)) {
            sketch.line(x, y, toX, toY, area, mmS, ofType);
        }
    }

    /** A layer begins when something is laid at another height than before: at once after a lift, else as it rises. */
    private void beginLayer(double atZ, long lineNumber) {
        double rise = atZ - layerZ;
        boolean begins = Double.isNaN(layerZ)
                || Math.abs(rise) > SAME_LAYER_MM && (liftedSinceLaid || rise >= Math.max(0.05, layerHeight));
        if (begins) {
            layerHeight = Double.isNaN(layerZ) ? atZ : Math.max(0.02, rise);
            layerZ = atZ;
            if (sketch != null) {
                sketch.beginLayer(atZ, layerHeight);
            }
            layers.add(new LayerRead(atZ, lineNumber, planner.totalSeconds()));
        }
        liftedSinceLaid = false;
    }

    private void widen(double atX, double atY, double atZ) {
        box[0] = Math.min(box[0], atX);
        box[1] = Math.min(box[1], atY);
        box[2] = Math.min(box[2], atZ);
        box[3] = Math.max(box[3], atX);
        box[4] = Math.max(box[4], atY);
        box[5] = Math.max(box[5], atZ);
    }

    private void comment(GcodeLine line) {
        String comment = line.comment();
        if (!pictureDone && (picture.length() > 0 || comment.startsWith(PNG_BASE64))) {
            collectPicture(comment);
            return;
        }
        if (line.letter() == 0) {
            PathHint.of(comment).ifPresent(hinted -> type = hinted);
        }
        int split = comment.indexOf('=') > 0 ? comment.indexOf('=') : comment.indexOf(':');
        if (split > 0 && split < 60 && hints.size() < MOST_HINTS) {
            hints.putIfAbsent(comment.substring(0, split).strip().toLowerCase(java.util.Locale.ROOT),
                    comment.substring(split + 1).strip());
        }
    }

    /** Lines of Base64 one after another, up to the end that every PNG has. */
    private void collectPicture(String comment) {
        picture.append(comment);
        pictureDone = PNG_END.matcher(comment).find();
        if (!pictureDone && (picture.length() > LARGEST_PICTURE || !BASE64.matcher(comment).matches())) {
            picture.setLength(0);
        }
    }
}
