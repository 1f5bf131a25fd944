package fabbrica.core.toolpath;

import fabbrica.core.mesh.model.Shapes;
import java.util.ArrayList;
import java.util.List;
import java.util.function.DoubleFunction;
import org.locationtech.jts.geom.Coordinate;
import org.locationtech.jts.geom.Geometry;
import org.locationtech.jts.geom.GeometryFactory;
import org.locationtech.jts.operation.buffer.BufferOp;
import org.locationtech.jts.operation.buffer.BufferParameters;

/** Outlines of walls of any thickness, made with JTS. */
enum WallShapes {
    TUBE_OF_48(wall -> tube(10, wall, 48)),
    TUBE_OF_256(wall -> tube(30, wall, 256)),
    TUBE_OF_1024(wall -> tube(20, wall, 1024)),
    CLIP(wall -> stroke(arc(12, 300, 96), wall, BufferParameters.CAP_FLAT)),
    ROUND_CLIP(wall -> stroke(arc(12, 300, 512), wall, BufferParameters.CAP_ROUND)),
    WAVE(wall -> stroke(wave(256), wall, BufferParameters.CAP_FLAT)),
    BAR(wall -> Shapes.rectangle(0, 0, 30, wall)),
    SLANT(wall -> stroke(line(0, 0, 20, 20), wall, BufferParameters.CAP_FLAT)),
    FRAME(wall -> Shapes.rectangle(0, 0, 20, 14).difference(Shapes.rectangle(wall, wall, 20 - wall, 14 - wall))),
    ZIGZAG(wall -> stroke(line(0, 0, 10, 6, 20, 0, 30, 6, 40, 0), wall, BufferParameters.CAP_FLAT)),
    TEE(wall -> stroke(line(0, 0, 20, 0), wall, BufferParameters.CAP_FLAT)
            .union(stroke(line(10, 0, 10, 15), wall, BufferParameters.CAP_FLAT))),
    TAPER(wall -> Shapes.polygon(0, 0.15, 40, wall / 2, 40, -wall / 2, 0, -0.15)),
    STAR_OF_5(wall -> star(5, wall)),
    STAR_OF_9(wall -> star(9, wall));

    private static final GeometryFactory PLANE = new GeometryFactory();

    private final DoubleFunction<Geometry> outline;

    WallShapes(DoubleFunction<Geometry> outline) {
        this.outline = outline;
    }

    Geometry of(double wallMm) {
        return outline.apply(wallMm);
    }

    /** As a layer holds them. */
    static List<Island> islands(Geometry outline) {
        List<double[]> rings = new ArrayList<>();
        Island.of(outline).forEach(island -> island.rings()
                .forEach(ring -> rings.add(RingSimplifier.simplify(ring, Slices.TOLERANCE_MM))));
        return SolidArea.of(rings).islands();
    }

    private static Geometry tube(double radius, double wall, int sides) {
        return Shapes.disc(0, 0, radius, sides).difference(Shapes.disc(0, 0, radius - wall, sides));
    }

    private static Geometry stroke(Geometry line, double wall, int cap) {
        return BufferOp.bufferOp(line, wall / 2, new BufferParameters(16, cap, BufferParameters.JOIN_MITRE, 4));
    }

    private static Geometry line(double... points) {
        Coordinate[] line = new Coordinate[points.length / 2];
        for (int i = 0; i < line.length; i++) {
            line[i] = new Coordinate(points[2 * i], points[2 * i + 1]);
        }
        return PLANE.createLineString(line);
    }

    private static Geometry arc(double radius, double degrees, int sides) {
        double[] points = new double[2 * sides + 2];
        for (int i = 0; i <= sides; i++) {
            points[2 * i] = radius * Math.cos(Math.toRadians(degrees * i / sides));
            points[2 * i + 1] = radius * Math.sin(Math.toRadians(degrees * i / sides));
        }
        return line(points);
    }

    private static Geometry wave(int steps) {
        double[] points = new double[2 * steps + 2];
        for (int i = 0; i <= steps; i++) {
            points[2 * i] = 60.0 * i / steps;
            points[2 * i + 1] = 5 * Math.sin(20.0 * i / steps);
        }
        return line(points);
    }

    private static Geometry star(int points, double wall) {
        double[] ring = new double[4 * points];
        for (int i = 0; i < 2 * points; i++) {
            double radius = wall + (i % 2 == 0 ? 10 : 3), angle = Math.PI * i / points;
            ring[2 * i] = radius * Math.cos(angle);
            ring[2 * i + 1] = radius * Math.sin(angle);
        }
        return Shapes.polygon(ring);
    }
}
