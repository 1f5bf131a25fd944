package fabbrica.core.gcode;

import fabbrica.core.bed.BedRoute;
import fabbrica.core.motion.LayerMoves;
import fabbrica.core.motion.Machine;
import fabbrica.core.motion.Motion;
import fabbrica.core.motion.MoveTimer;
import fabbrica.core.recipe.Kinematics;
import fabbrica.core.recipe.Material;
import fabbrica.core.recipe.OwnWay;
import fabbrica.core.recipe.Preparation;
import fabbrica.core.recipe.Printer;
import fabbrica.core.recipe.PurgeLine;
import fabbrica.core.recipe.Recipe;
import fabbrica.core.toolpath.Layer;
import fabbrica.core.toolpath.PathType;
import fabbrica.core.toolpath.Toolpath;
import fabbrica.core.units.OutOfRange;
import fabbrica.core.units.Spoken;
import java.io.BufferedOutputStream;
import java.io.IOException;
import java.io.OutputStream;
import java.io.UncheckedIOException;
import java.nio.charset.StandardCharsets;
import java.util.List;
import org.jspecify.annotations.Nullable;

/**
 * Writes the G-code of a toolpath for one printer: header, start, every move as {@link LayerMoves} gives it, end. Nothing
 * is written beyond the printer's travel, temperature or flow. Read back by {@link Replay}, it takes the time and the
 * filament of the estimate.
 */
public final class GcodeWriter {

    /** Above the bed before anything lies on it, and above the parts when all are done. */
    static final double LIFT_MM = 5;
    private static final double FAN_FULL = 255;
    private static final double[] TENTHS = {1, 10, 100, 1000, 10_000, 100_000};

    private final Toolpath toolpath;
    private final Motion motion;
    private final Recipe recipe;
    private final Printer printer;
    private final Material material;
    private final double dx;
    private final double dy;
    private final OutputStream out;
    private final byte[] number = new byte[24];

    private double x;
    private double y;
    private double z;
    private double filament;
    private double speed;
    private double acceleration;
    private @Nullable PathType type;

    private GcodeWriter(Toolpath toolpath, Motion motion, Recipe recipe, Printer printer, Material material, double dx,
                        double dy, OutputStream out) {
        this.toolpath = toolpath;
        this.motion = motion;
        this.recipe = recipe;
        this.printer = printer;
        this.material = material;
        this.dx = dx;
        this.dy = dy;
        this.out = out;
    }

    /**
     * @param motion of the toolpath on this printer
     * @param dx     from the toolpath to the bed, whose front left corner is the origin
     * @param header lines for people, without semicolons
     * @throws OutOfRange  with a sentence when the printer cannot do it
     * @throws IOException when it cannot be written
     */
    public static void write(Toolpath toolpath, Motion motion, Recipe recipe, Printer printer, Material material,
                             double dx, double dy, List<String> header, OutputStream out) throws IOException {
        try (BufferedOutputStream buffered = new BufferedOutputStream(out, 1 << 16)) {
            GcodeWriter writer = new GcodeWriter(toolpath, motion, recipe, printer, material, dx, dy, buffered);
            writer.check();
            writer.header(header);
            writer.start();
            writer.layers();
            writer.end();
        } catch (UncheckedIOException e) {
            throw e.getCause();
        }
    }

    private void check() {
        double[] box = {Double.POSITIVE_INFINITY, Double.POSITIVE_INFINITY, Double.NEGATIVE_INFINITY,
            Double.NEGATIVE_INFINITY};
        double top = 0;
        for (Layer layer : toolpath.layers()) {
            top = Math.max(top, layer.topMm());
            for (int i = 0; i < layer.pointCount(); i++) {
                box[0] = Math.min(box[0], layer.x(i) + dx);
                box[1] = Math.min(box[1], layer.y(i) + dy);
                box[2] = Math.max(box[2], layer.x(i) + dx);
                box[3] = Math.max(box[3], layer.y(i) + dy);
            }
        }
        checkWay();
        if (box[0] > box[2]) {
            throw new OutOfRange("There is nothing to print: no layer has a line on it.");
        }
        checkOwnWay();
        double width = printer.bed().widthMm(), depth = printer.bed().depthMm(), height = printer.bed().heightMm();
        if (box[0] < 0 || box[1] < 0 || box[2] > width || box[3] > depth || top > height) {
            throw new OutOfRange(("The head would have to go to %s … %s × %s … %s mm and %s mm high; %s reaches %s × %s "
                    + "× %s mm.").formatted(mm(box[0]), mm(box[2]), mm(box[1]), mm(box[3]), mm(top), printer.name(),
                    mm(width), mm(depth), mm(height)));
        }
        if (material.nozzleC() > printer.maxNozzleC() || material.bedC() > printer.maxBedC()) {
            throw new OutOfRange("%s needs %d °C at the nozzle and %d °C at the bed; %s reaches %d and %d °C.".formatted(
                    material.name(), material.nozzleC(), material.bedC(), printer.name(), printer.maxNozzleC(),
                    printer.maxBedC()));
        }
    }

    /** Every way of the head on a layer and from layer to layer; those before and after are laid beside what is kept free. */
    private void checkWay() {
        double lastX = Double.NaN, lastY = Double.NaN;
        for (Layer layer : toolpath.layers()) {
            for (int path = 0; path < layer.pathCount(); path++) {
                for (int i = layer.start(path); i < layer.end(path); i++) {
                    double toX = layer.x(i) + dx, toY = layer.y(i) + dy;
                    if (printer.bed().keepsFree(toX, toY) || BedRoute.crosses(printer.bed(), lastX, lastY, toX, toY)) {
                        throw new OutOfRange(("The head would come where the bed of %s is to be kept free, at %s mm across and "
                                + "%s mm deep. Lay the parts so that none is behind it.").formatted(printer.name(), mm(toX),
                                mm(toY)));
                    }
                    lastX = toX;
                    lastY = toY;
                }
            }
        }
    }

    private void checkOwnWay() {
        leftByOwnStart();
        Layer last = toolpath.layers().reversed().stream().filter(layer -> layer.pathCount() > 0).findFirst().orElseThrow();
        int end = last.pointCount() - 1;
        OwnWayCheck.drive("end", ownLines(printer.ownWay().end()), printer, last.x(end) + dx, last.y(end) + dy, last.topMm());
    }

    private void header(List<String> header) {
        header.forEach(line -> text("; " + line.replaceAll("\\R", " ")));
        text("; filament diameter: " + mm(printer.filamentMm()));
        text("; nozzle diameter: " + mm(printer.nozzle().boreMm()));
        text("; layer height: " + mm(recipe.layerHeightMm()));
        text("; material: " + material.name());
        text("; Try it on this very machine first and watch the first layer. The maker's manual and the rules of the "
                + "lab come first.");
    }

    private void start() {
        Preparation preparation = printer.preparation();
        text("G21");
        text("G90");
        text("M82");
        if (printer.ownWay().start().isBlank()) {
            text("M190 S" + material.bedC());
            text("M109 S" + material.nozzleC());
            text("G28");
            if (preparation.levellingS() + preparation.flowS() > 0) {
                text("G29");
            }
            purge(preparation);
        } else {
            own(printer.ownWay().start());
            text("G21");
            text("G90");
            text("M82");
            goToFirstLayer();
        }
        text("M204 S" + Math.round(printer.kinematics().accelerationMmS2()));
        acceleration = printer.kinematics().accelerationMmS2();
    }

    private void own(String text) {
        ownLines(text).forEach(this::text);
    }

    private List<String> ownLines(String text) {
        return OwnWay.lines(text, material.nozzleC(), material.bedC());
    }

    /** From where the lab's own start has left the head: up, over beside what is kept free, and down. */
    private void goToFirstLayer() {
        Layer first = firstLayer();
        text("G92 E0");
        z = Double.NaN;
        move(x, y, first.topMm() + LIFT_MM, printer.kinematics().zSpeedMmS());
        MoveTimer left = leftByOwnStart();
        x = Double.NaN;
        y = Double.NaN;
        BedRoute.of(printer.bed(), left.x(), left.y(), first.x(0) + dx, first.y(0) + dy)
                .forEach(place -> move(place[0], place[1], z, travelSpeed()));
        move(x, y, first.topMm(), printer.kinematics().zSpeedMmS());
    }

    private MoveTimer leftByOwnStart() {
        return OwnWayCheck.drive("start", ownLines(printer.ownWay().start()), printer, 0, 0, 0);
    }

    private double highest() {
        return toolpath.layers().stream().mapToDouble(Layer::topMm).max().orElse(0);
    }

    private Layer firstLayer() {
        return toolpath.layers().stream().filter(layer -> layer.pathCount() > 0).findFirst().orElseThrow();
    }

    /** Along the front edge and on to where the print begins, beside what is kept free, in the time that purging is given. */
    private void purge(Preparation preparation) {
        Layer first = firstLayer();
        double toX = first.x(0) + dx, toY = first.y(0) + dy, height = first.topMm(), over = height + LIFT_MM;
        double vertical = printer.kinematics().zSpeedMmS();
        text("G92 E0");
        move(0, 0, over, vertical);
        if (!printer.purgesOnBed()) {
            travel(toX, toY);
            move(toX, toY, height, vertical);
            return;
        }
        PurgeLine line = PurgeLine.on(printer.bed());
        // The way down to the first layer belongs to the layer.
        double others = liftingSeconds(over) + 3 * liftingSeconds(LIFT_MM) - liftingSeconds(height) + 2 * drawingBackSeconds()
                + travelSeconds(0, 0, line.fromX(), line.y()) + travelSeconds(line.toX(), line.y(), toX, toY);
        travel(line.fromX(), line.y());
        move(line.fromX(), line.y(), height, vertical);
        filament = preparation.purgeMm3() / printer.filamentAreaMm2();
        extrude(line.toX(), line.y(), height, (line.toX() - line.fromX()) / Math.max(1, preparation.purgeS() - others),
                PathType.PURGE);
        drawBack(-1);
        move(x, y, over, vertical);
        travel(toX, toY);
        move(toX, toY, height, vertical);
        drawBack(1);
    }

    private void drawBack(int sign) {
        double mm = printer.kinematics().retractionMm();
        if (mm > 0) {
            filament += sign * mm;
            speed = printer.kinematics().retractionSpeedMmS();
            bytes("G1 E");
            number(filament, 5);
            bytes(" F");
            number(speed * 60, 1);
            newline();
        }
    }

    private double drawingBackSeconds() {
        Kinematics k = printer.kinematics();
        return MoveTimer.alone(k.retractionMm(), Math.min(k.retractionSpeedMmS(), k.board().filamentSpeedMmS()),
                k.board().filamentAccelerationMmS2());
    }

    private double liftingSeconds(double mm) {
        return MoveTimer.alone(mm, printer.kinematics().zSpeedMmS(), printer.kinematics().board().zAccelerationMmS2());
    }

    private double travelSeconds(double fromX, double fromY, double toX, double toY) {
        double total = 0, atX = fromX, atY = fromY;
        for (double[] place : BedRoute.of(printer.bed(), fromX, fromY, toX, toY)) {
            total += MoveTimer.alone(Math.hypot(place[0] - atX, place[1] - atY), travelSpeed(),
                    printer.kinematics().accelerationMmS2());
            atX = place[0];
            atY = place[1];
        }
        return total;
    }

    /** Over the bed beside what is kept free. */
    private void travel(double toX, double toY) {
        BedRoute.of(printer.bed(), x, y, toX, toY).forEach(place -> move(place[0], place[1], z, travelSpeed()));
    }

    private double travelSpeed() {
        return Math.min(recipe.pace().travelMmS(), printer.kinematics().maxSpeedMmS());
    }

    private void layers() {
        Kinematics kinematics = printer.kinematics();
        List<Layer> layers = toolpath.layers();
        FileLines lines = new FileLines();
        for (int i = 0; i < layers.size(); i++) {
            int number = i;
            text("; layer %d of %d, top %s mm".formatted(i + 1, layers.size(), mm(layers.get(i).topMm())));
            toolpath.changes().stream().filter(change -> change.layer() == number)
                    .forEach(change -> text("M600 ; change the filament"));
            text("G92 E0");
            filament = 0;
            if (i == 1) {
                text("M106 S" + Math.round(FAN_FULL));
            }
            if (printer.preparation().pictureS() > 0) {
                text("M240");
            }
            new LayerMoves(layers.get(i), toolpath.laidBelow(i), recipe, kinematics,
                    motion.layers().get(i).slowedTo()).drive(lines);
        }
    }

    /** Puts down each move of a layer. */
    private final class FileLines implements Machine {

        @Override
        public void lineTo(double toX, double toY, double toZ, double mm3, double speedMmS, double accelerationMmS2,
                           PathType ofType) {
            if (mm3 > 0) {
                if (Math.abs(accelerationMmS2 - acceleration) > 0.5) {
                    acceleration = accelerationMmS2;
                    text("M204 S" + Math.round(accelerationMmS2));
                }
                filament += mm3 / printer.filamentAreaMm2();
                extrude(toX + dx, toY + dy, toZ, speedMmS, ofType);
            } else {
                move(toX + dx, toY + dy, toZ, speedMmS);
            }
        }

        @Override
        public void retract() {
            drawBack(-1);
        }

        @Override
        public void advance() {
            drawBack(1);
        }
    }

    /** Lifts and parks at the back, in the time that the end is given. */
    private void end() {
        text("; end");
        if (!printer.ownWay().end().isBlank()) {
            own(printer.ownWay().end());
            return;
        }
        text("M104 S0");
        text("M140 S0");
        text("M107");
        double up = Math.min(Math.max(z, highest()) + LIFT_MM, Math.max(z, printer.bed().heightMm()));
        double left = printer.preparation().endS() - liftingSeconds(up - z) - drawingBackSeconds();
        if (printer.preparation().endS() > 0) {
            drawBack(-1);
            move(x, y, up, printer.kinematics().zSpeedMmS());
            List<double[]> way = BedRoute.of(printer.bed(), x, y, 0, printer.bed().depthMm());
            double parking = Math.min(BedRoute.lengthMm(x, y, way) / Math.max(1, left), printer.kinematics().maxSpeedMmS());
            way.forEach(place -> move(place[0], place[1], up, parking));
        }
        text("M84");
    }

    private void move(double toX, double toY, double toZ, double speedMmS) {
        if (toX == x && toY == y && toZ == z) {
            return;
        }
        bytes("G0");
        place(toX, toY, toZ);
        speed(speedMmS);
        newline();
    }

    private void extrude(double toX, double toY, double toZ, double speedMmS, PathType ofType) {
        if (ofType != type) {
            type = ofType;
            text("; path: " + ofType.code());
        }
        bytes("G1");
        place(toX, toY, toZ);
        bytes(" E");
        number(filament, 5);
        speed(speedMmS);
        newline();
    }

    private void place(double toX, double toY, double toZ) {
        if (toX != x) {
            bytes(" X");
            number(toX, 3);
        }
        if (toY != y) {
            bytes(" Y");
            number(toY, 3);
        }
        if (toZ != z) {
            bytes(" Z");
            number(toZ, 3);
        }
        x = toX;
        y = toY;
        z = toZ;
    }

    private void speed(double mmS) {
        if (Math.abs(mmS - speed) > 1e-9) {
            speed = mmS;
            bytes(" F");
            number(mmS * 60, 1);
        }
    }

    /** Fixed decimals, without the cost of a formatter: a file has millions of these. */
    private void number(double value, int decimals) {
        long scaled = Math.round(Math.abs(value) * TENTHS[decimals]);
        boolean negative = value < 0 && scaled > 0;
        int at = number.length;
        for (int i = 0; i < decimals; i++, scaled /= 10) {
            number[--at] = (byte) ('0' + scaled % 10);
        }
        number[--at] = '.';
        do {
            number[--at] = (byte) ('0' + scaled % 10);
            scaled /= 10;
        } while (scaled > 0);
        if (negative) {
            number[--at] = '-';
        }
        write(number, at, number.length - at);
    }

    private void text(String line) {
        bytes(line);
        newline();
    }

    private void newline() {
        bytes("\n");
    }

    private void bytes(String text) {
        byte[] bytes = text.getBytes(StandardCharsets.UTF_8);
        write(bytes, 0, bytes.length);
    }

    private void write(byte[] bytes, int from, int length) {
        try {
            out.write(bytes, from, length);
        } catch (IOException e) {
            throw new UncheckedIOException(e);
        }
    }

    private static String mm(double value) {
        return Spoken.number(value, 2);
    }
}
