package fabbrica.core.gcode;

import fabbrica.core.bed.BedRoute;
import fabbrica.core.gcode.Replay.LayerRead;
import fabbrica.core.gcode.Replay.Passage;
import fabbrica.core.gcode.Replay.Wait;
import fabbrica.core.mesh.model.Bounds;
import fabbrica.core.motion.MoveTimer;
import fabbrica.core.recipe.Board;
import fabbrica.core.recipe.Cornering;
import fabbrica.core.recipe.Preparation;
import fabbrica.core.recipe.Printer;
import fabbrica.core.toolpath.PathType;
import fabbrica.core.units.Spoken;
import java.util.ArrayList;
import java.util.EnumMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.SortedMap;
import java.util.TreeMap;
import java.util.regex.Pattern;
import org.jspecify.annotations.Nullable;

/** Carries out G-code line by line on a printer that is only thought of. */
final class Interpreter {

    private static final double INCH_MM = 25.4;
    private static final double SAME_LAYER_MM = 0.005;
    /** Chords of one arc; those that have none to spare any more, in files of a great many huge arcs, stray from it further. */
    private static final int MOST_CHORDS = 10_000;
    private static final int LEAST_CHORDS = 100;
    private static final long SPARE_CHORDS = 1_000_000;
    private static final int MOST_FAULTS = 20;
    private static final int MOST_PASSAGES = 20;
    private static final int MOST_HINTS = 400;
    private static final double FLOW_OVER_MM = 1;
    private static final String PNG_BASE64 = "iVBORw0KGgo";
    private static final Pattern BASE64 = Pattern.compile("[A-Za-z0-9+/]+");
    private static final Pattern PNG_END = Pattern.compile("(SUVORK5CYII=|lFTkSuQmCC|JRU5ErkJggg==)$");
    private static final int LARGEST_PICTURE = 400_000;

    private final Printer printer;
    private final GcodeLayers.@Nullable Sketch sketch;
    private final MoveTimer timer;
    private final Map<Wait, Double> waits = new EnumMap<>(Wait.class);
    private final SortedMap<Integer, Double> filament = new TreeMap<>();
    private final List<LayerRead> layers = new ArrayList<>();
    private final List<Cue> cues = new ArrayList<>();
    private final SortedMap<String, Integer> unknown = new TreeMap<>();
    private final List<String> faults = new ArrayList<>();
    private final List<Passage> passages = new ArrayList<>();
    private final Map<String, String> hints = new LinkedHashMap<>();
    private final StringBuilder picture = new StringBuilder();
    private final Heater bed;
    private final Heater nozzle;
    private final double[] box = {Double.POSITIVE_INFINITY, Double.POSITIVE_INFINITY, Double.POSITIVE_INFINITY,
        Double.NEGATIVE_INFINITY, Double.NEGATIVE_INFINITY, Double.NEGATIVE_INFINITY};

    private boolean pictureDone;
    private double unit = 1;
    private boolean relative;
    private final AmountMode amounts = new AmountMode();
    private final Cautions cautions = new Cautions();
    private Arc.Plane plane = Arc.Plane.XY;
    private long spareChords = SPARE_CHORDS;
    private boolean absoluteCentres;
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
    private double travelAcceleration;
    private int tool;
    private PathType type = PathType.OTHER;
    private double layerZ = Double.NaN;
    private double layerHeight;
    private boolean liftedSinceLaid = true;
    private boolean homed;
    private boolean cold;
    private long beforeHoming;
    private boolean placed;
    /** Lowest place in mm of the way that is being gone over what is to be kept free. */
    private double crossedAt = Double.POSITIVE_INFINITY;
    private long onKeepOut;
    private long backwards;
    private long faultCount;
    private long firstPassedOver;
    private long lineNumber;
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

        boolean hasBeenAbove(double celsius) {
            return hottest > celsius;
        }

        private double at(double now) {
            return target <= reached ? Math.max(target, Preparation.ROOM_C)
                    : Math.min(target, reached + (now - since) * perSecond);
        }
    }

    /** @param sketch takes down what is drawn; null when nobody looks */
    Interpreter(Printer printer, GcodeLayers.@Nullable Sketch sketch) {
        this.printer = printer;
        this.sketch = sketch;
        this.timer = new MoveTimer(printer);
        this.acceleration = printer.kinematics().accelerationMmS2();
        this.travelAcceleration = acceleration;
        this.bed = new Heater(printer.preparation().bedCPerS());
        this.nozzle = new Heater(printer.preparation().nozzleCPerS());
        timer.at(0, 0, 0);
    }

    /** As if the head had been brought to a place. */
    Interpreter at(double atX, double atY, double atZ) {
        x = atX;
        y = atY;
        z = atZ;
        homed = true;
        placed = true;
        timer.at(x, y, z);
        return this;
    }

    Replay replay() {
        if (amounts.asks()) {
            goOn();
        }
        timer.stop();
        if (!unknown.isEmpty() || faultCount > 0) {
            cautions.add(firstPassedOver, "commands that are not known or make no sense were passed over", true);
        }
        cue(Cue.Kind.END, 0);
        Bounds printed = box[0] > box[3] ? null : new Bounds(box[0], box[1], box[2], box[3], box[4], box[5]);
        return new Replay(waits, timer, filament, printed, List.copyOf(layers), List.copyOf(cues), nozzle.hottest, bed.hottest,
                fastestFlow, beforeHoming, cold, onKeepOut, List.copyOf(passages), backwards, laid, unknown,
                List.copyOf(faults), faultCount, cautions.all(), hints, pictureDone ? picture.toString() : "");
    }

    void accept(GcodeLine line) {
        if (amounts.asks()) {
            if (amounts.holds(line)) {
                goOn();
            }
            return;
        }
        carryOut(line);
    }

    /** With the lines that were held back; one of them may ask again. */
    private void goOn() {
        List<GcodeLine> lines = amounts.decide();
        if (amounts.matters()) {
            cautions.add(amounts.askedAt(), "machines differ in whether G90 and G91 speak for the filament after M82 or M83; its "
                    + "amounts are taken as the file makes sense, %s".formatted(amounts.isRelative() ? "step by step"
                    : "from the last zero"), false);
        }
        lines.forEach(this::accept);
    }

    private void carryOut(GcodeLine line) {
        lineNumber = line.number();
        if (line.fault() != null) {
            faultCount++;
            passedOver(line);
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
            change(line.code());
        } else if (line.words != 0) {
            move(line);
        }
        if (line.hasComment() && (line.letter() == 0 || hints.size() < MOST_HINTS)) {
            comment(line);
        }
    }

    private void change(int to) {
        if (to != tool && laid > 0) {
            waitFor(Wait.CHANGE, printer.preparation().changeS());
        }
        tool = to;
    }

    private void g(GcodeLine line) {
        switch (line.minor() == 0 ? line.code() : -line.code()) {
            case 0, 1 -> move(line);
            case 2, 3 -> arc(line, line.code() == 2);
            case 4 -> waitFor(Wait.DWELL, line.has('P') ? line.value('P', 0) / 1000 : line.value('S', 0));
            case 10 -> {
                if (line.has('P') || line.has('L')) {
                    setTool(line);
                } else {
                    firmwareRetract(-1);
                }
            }
            case 11 -> firmwareRetract(1);
            case 17 -> plane = Arc.Plane.XY;
            case 18 -> plane = Arc.Plane.ZX;
            case 19 -> plane = Arc.Plane.YZ;
            case 20 -> unit = INCH_MM;
            case 21 -> unit = 1;
            case 28 -> home(line);
            case 29 -> waitFor(Wait.LEVEL, printer.preparation().levellingS() + printer.preparation().flowS());
            case 80 -> {
            }
            case 90, 91 -> axes(line);
            case -90 -> absoluteCentres = true;
            case -91 -> absoluteCentres = false;
            case 92 -> setPosition(line);
            default -> unknown(line);
        }
    }

    private void axes(GcodeLine line) {
        relative = line.code() == 91;
        amounts.axes(relative, e / unit, line.number());
        if (line.has('X') || line.has('Y') || line.has('Z')) {
            move(line);
        }
    }

    /** Of the tool in use only: its nozzle is set to the active temperature. */
    private void setTool(GcodeLine line) {
        if (line.has('S') && line.value('P', tool) == tool) {
            set(nozzle, Cue.Kind.NOZZLE, line.value('S', 0));
        }
    }

    private void m(GcodeLine line) {
        switch (line.code()) {
            case 0, 1 -> {
                cautions.add(line.number(), "the printer waits for somebody", true);
                cue(Cue.Kind.PAUSE, 0);
            }
            case 82 -> amounts.say(false);
            case 83 -> amounts.say(true);
            case 25 -> cue(Cue.Kind.PAUSE, 0);
            case 104 -> set(nozzle, Cue.Kind.NOZZLE, line.value('S', line.value('R', 0)));
            case 109 -> heat(nozzle, Wait.HEAT_NOZZLE, line);
            case 140 -> set(bed, Cue.Kind.BED, line.value('S', line.value('R', 0)));
            case 190 -> heat(bed, Wait.HEAT_BED, line);
            case 201 -> limitAccelerations(line);
            case 203 -> limitSpeeds(line);
            case 204 -> accelerations(line);
            case 205 -> corner(line);
            case 220 -> speedFactor = factor(line, "speed", speedFactor);
            case 221 -> flowFactor = line.value('S', 100) == 0 ? 0 : factor(line, "flow", flowFactor);
            case 226 -> cautions.add(line.number(), "the printer waits for a signal", true);
            case 240 -> waitFor(Wait.PICTURE, printer.preparation().pictureS());
            case 600 -> waitFor(Wait.CHANGE, printer.preparation().changeS());
            case 2, 17, 18, 20, 21, 23, 24, 27, 28, 29, 30, 31, 73, 84, 85, 92, 105, 106, 107, 108, 110, 111,
                 112, 114, 115, 117, 118, 119, 120, 121, 141, 155, 191, 200, 202, 206, 207, 208, 209, 211,
                 218, 300, 301, 302, 304, 350, 400, 401, 402, 413, 420, 500, 501, 502, 503, 569, 572, 593,
                 851, 862, 900, 906, 907, 913, 914 -> {
            }
            default -> unknown(line);
        }
    }

    private void unknown(GcodeLine line) {
        passedOver(line);
        unknown.merge("" + line.letter() + line.code() + (line.minor() == 0 ? "" : "." + line.minor()), 1, Integer::sum);
    }

    private void passedOver(GcodeLine line) {
        firstPassedOver = firstPassedOver == 0 ? line.number() : firstPassedOver;
    }

    /** A factor in per cent; one that would stop everything is not taken. */
    private double factor(GcodeLine line, String of, double before) {
        double factor = line.value('S', 100) / 100;
        if (factor > 0) {
            return factor;
        }
        cautions.add(line.number(), "a %s of %s %% would never end; the one before was kept".formatted(of,
                Spoken.number(100 * factor, 0)), true);
        return before;
    }

    /** What the file sets is kept to where it is below what the printer can. */
    private void limitAccelerations(GcodeLine line) {
        timer.stop();
        Board board = timer.board();
        timer.limits(board.withAccelerations(lower(line, 'X', board.xAccelerationMmS2(), 10),
                lower(line, 'Y', board.yAccelerationMmS2(), 10), lower(line, 'Z', board.zAccelerationMmS2(), 5),
                lower(line, 'E', board.filamentAccelerationMmS2(), 10)), timer.zSpeedMmS());
        timer.filamentAcceleration(timer.board().filamentAccelerationMmS2());
    }

    private void limitSpeeds(GcodeLine line) {
        timer.stop();
        Board board = timer.board();
        timer.limits(board.withSpeeds(lower(line, 'X', board.xSpeedMmS(), 1), lower(line, 'Y', board.ySpeedMmS(), 1),
                lower(line, 'E', board.filamentSpeedMmS(), 1)), lower(line, 'Z', timer.zSpeedMmS(), 0.1));
    }

    private double lower(GcodeLine line, char axis, double limit, double least) {
        return Math.clamp(line.value(axis, limit / unit) * unit, least, limit);
    }

    /** S for all, P while laying, T while not, R for filament alone. */
    private void accelerations(GcodeLine line) {
        double most = printer.kinematics().accelerationMmS2();
        acceleration = Math.clamp(line.value('P', line.value('S', acceleration)), 1, most);
        travelAcceleration = Math.clamp(line.value('T', line.value('S', travelAcceleration)), 1, most);
        if (line.has('R')) {
            timer.stop();
            timer.filamentAcceleration(Math.clamp(line.value('R', 1), 1, timer.board().filamentAccelerationMmS2()));
        }
    }

    private void corner(GcodeLine line) {
        timer.stop();
        if (line.has('J') && line.value('J', 0) > 0) {
            timer.corners(new Cornering.Deviation(Math.clamp(line.value('J', 0), 0.001, 1)));
        } else if (line.has('X') && line.value('X', 0) > 0) {
            timer.corners(new Cornering.Jerk(Math.clamp(line.value('X', 0), 0.1, 200)));
        }
        if (line.has('B') && line.value('B', 0) > 0) {
            Board board = timer.board();
            timer.limits(board.withLookAhead(board.lookAheadMoves(),
                    Math.clamp(1e6 / line.value('B', 0), 10, board.movesPerS())), timer.zSpeedMmS());
        }
        if (line.has('S') || line.has('T')) {
            cautions.add(line.number(), "least speeds are not taken into account", false);
        }
    }

    private double now() {
        timer.stop();
        return timer.totalSeconds() + waits.values().stream().mapToDouble(Double::doubleValue).sum();
    }

    private void heat(Heater heater, Wait wait, GcodeLine line) {
        double now = now();
        if (line.has('R') && heater.hasBeenAbove(line.value('R', 0))) {
            cautions.add(line.number(), "the printer waits until it has cooled down", true);
        }
        heater.set(line.value('S', line.value('R', heater.target)), now);
        cue(heater == bed ? Cue.Kind.AWAIT_BED : Cue.Kind.AWAIT_NOZZLE, heater.target);
        wait(wait, heater.wait(now));
    }

    private void set(Heater heater, Cue.Kind kind, double celsius) {
        heater.set(celsius, now());
        cue(kind, celsius);
    }

    private void waitFor(Wait wait, double seconds) {
        if (seconds > 0) {
            cue(Cue.Kind.valueOf(wait.name()), seconds);
        }
        wait(wait, seconds);
    }

    private void wait(Wait wait, double seconds) {
        timer.stop();
        if (seconds > 0) {
            waits.merge(wait, seconds, Double::sum);
        }
    }

    private void cue(Cue.Kind kind, double value) {
        timer.stop();
        cues.add(new Cue(kind, value, lineNumber, timer.totalSeconds(), pushed()));
    }

    private double pushed() {
        return filament.values().stream().mapToDouble(Double::doubleValue).sum();
    }

    private void home(GcodeLine line) {
        waitFor(Wait.HOME, printer.preparation().homingS());
        boolean all = !line.has('X') && !line.has('Y') && !line.has('Z');
        homed = true;
        placed |= all;
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
        timer.at(x, y, z);
    }

    private void setPosition(GcodeLine line) {
        boolean all = !line.has('X') && !line.has('Y') && !line.has('Z') && !line.has('E');
        shiftX = all || line.has('X') ? x - line.value('X', 0) * unit : shiftX;
        shiftY = all || line.has('Y') ? y - line.value('Y', 0) * unit : shiftY;
        shiftZ = all || line.has('Z') ? z - line.value('Z', 0) * unit : shiftZ;
        e = all || line.has('E') ? line.value('E', 0) * unit : e;
    }

    private void firmwareRetract(int sign) {
        timer.filament(printer.kinematics().retractionMm() * sign, printer.kinematics().retractionSpeedMmS());
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
        double value = line.value('E', 0) * unit, step = amounts.isRelative() ? value : value - e;
        e += step;
        return step * flowFactor;
    }

    private void speed(GcodeLine line) {
        double asked = line.value('F', 0) * unit / 60;
        if (line.has('F') && asked > 0) {
            speed = asked;
        } else if (line.has('F')) {
            cautions.add(line.number(), "a speed of %s asks for no movement; the one before was kept".formatted(
                    Spoken.number(line.value('F', 0), 0)), true);
        }
    }

    private void move(GcodeLine line) {
        speed(line);
        double fromX = x, fromY = y;
        step(target(line, 'X', x, shiftX), target(line, 'Y', y, shiftY), target(line, 'Z', z, shiftZ), filamentStep(line),
                line.number());
        endWay(line, fromX, fromY);
    }

    /** By its centre or its radius; one that does not exist is gone straight. */
    private void arc(GcodeLine line, boolean clockwise) {
        speed(line);
        double[] from = {x, y, z};
        double[] to = {target(line, 'X', x, shiftX), target(line, 'Y', y, shiftY), target(line, 'Z', z, shiftZ)};
        int most = (int) Math.clamp(spareChords, LEAST_CHORDS, MOST_CHORDS);
        List<double[]> places = arc(line, from, to, clockwise).map(arc -> arc.places(most)).orElse(List.<double[]>of(to));
        spareChords -= Math.max(0, places.size() - LEAST_CHORDS);
        double filamentMm = filamentStep(line) / places.size();
        places.forEach(at -> step(at[0], at[1], at[2], filamentMm, line.number()));
        endWay(line, from[0], from[1]);
    }

    private Optional<Arc> arc(GcodeLine line, double[] from, double[] to, boolean clockwise) {
        if (line.has('R')) {
            Optional<Arc> arc = Arc.ofRadius(plane, from, to, line.value('R', 0) * unit, clockwise);
            if (arc.isEmpty()) {
                cautions.add(line.number(), "an arc's radius is too short for its ends, or they are one; it is gone straight", true);
            }
            return arc;
        }
        if (!line.has(plane.firstOffset) && !line.has(plane.secondOffset)) {
            cautions.add(line.number(), "an arc has neither centre nor radius; it is gone straight", true);
            return Optional.empty();
        }
        double[] shift = {shiftX, shiftY, shiftZ};
        return Optional.of(new Arc(plane, from, to, centre(line, plane.firstOffset, from[plane.first], shift[plane.first]),
                centre(line, plane.secondOffset, from[plane.second], shift[plane.second]), clockwise));
    }

    private double centre(GcodeLine line, char word, double from, double shift) {
        double offset = line.value(word, 0) * unit;
        return absoluteCentres && line.has(word) ? offset + shift : from + offset;
    }

    /** A way that crossed what is to be kept free, neither coming from there nor ending there, went straight through. */
    private void endWay(GcodeLine line, double fromX, double fromY) {
        if (crossedAt < GcodeWriter.LIFT_MM && placed && passages.size() < MOST_PASSAGES
                && !BedRoute.isWithin(printer.bed(), fromX, fromY) && !BedRoute.isWithin(printer.bed(), x, y)) {
            passages.add(new Passage(line.number(), line.text(), crossedAt));
        }
        crossedAt = Double.POSITIVE_INFINITY;
        placed |= line.has('X') && line.has('Y') && !relative;
    }

    private void step(double toX, double toY, double toZ, double filamentMm, long number) {
        double dx = toX - x, dy = toY - y, dz = toZ - z;
        boolean across = dx != 0 || dy != 0;
        double wanted = Math.min(speed * speedFactor, printer.kinematics().maxSpeedMmS());
        if (filamentMm != 0) {
            filament.merge(tool, filamentMm, Double::sum);
            cold |= nozzle.hottest == 0 && filamentMm > 0;
        }
        if (!across && dz == 0) {
            if (filamentMm != 0) {
                timer.filament(filamentMm, wanted);
            }
            return;
        }
        beforeHoming += homed ? 0 : 1;
        boolean crosses = BedRoute.crosses(printer.bed(), x, y, toX, toY);
        crossedAt = crosses ? Math.min(crossedAt, Math.min(z, toZ)) : crossedAt;
        double length = Math.sqrt(dx * dx + dy * dy + dz * dz);
        if (dz != 0) {
            wanted = Math.min(wanted, timer.zSpeedMmS() * length / Math.abs(dz));
        }
        if (across && filamentMm > 0) {
            double mm3 = filamentMm * printer.filamentAreaMm2();
            laid += length;
            beginLayer(toZ, number);
            widen(x, y, toZ);
            widen(toX, toY, toZ);
            onKeepOut += crosses ? 1 : 0;
            if (length >= FLOW_OVER_MM) {
                fastestFlow = Math.max(fastestFlow, mm3 / length * wanted);
            }
            timer.lineTo(toX, toY, toZ, mm3, wanted, acceleration, type);
            sketch(toX, toY, mm3 / Math.max(1e-9, length), wanted, type);
        } else {
            backwards += across && filamentMm < 0 ? 1 : 0;
            liftedSinceLaid |= dz != 0;
            timer.lineTo(toX, toY, toZ, 0, wanted, travelAcceleration, PathType.TRAVEL);
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
    private void beginLayer(double atZ, long number) {
        double rise = atZ - layerZ;
        boolean begins = Double.isNaN(layerZ)
                || Math.abs(rise) > SAME_LAYER_MM && (liftedSinceLaid || rise >= Math.max(0.05, layerHeight));
        if (begins) {
            // Lower than before another part begins, on the bed as a rule.
            layerHeight = Double.isNaN(layerZ) ? atZ : rise < 0 ? Math.min(atZ, 2 * layerHeight) : Math.max(0.02, rise);
            layerZ = atZ;
            if (sketch != null) {
                sketch.beginLayer(atZ, layerHeight);
            }
            layers.add(new LayerRead(atZ, number, timer.totalSeconds()));
            cues.add(new Cue(Cue.Kind.LAYER, atZ, number, timer.totalSeconds(), pushed()));
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
