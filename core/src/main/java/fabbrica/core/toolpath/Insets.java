package fabbrica.core.toolpath;

import java.util.ArrayList;
import java.util.List;
import org.locationtech.jts.geom.Geometry;
import org.locationtech.jts.operation.buffer.BufferOp;
import org.locationtech.jts.operation.buffer.BufferParameters;

/** Walls as the area's outline moved inwards line by line, corners kept sharp, and the area they leave to fill. */
record Insets(List<List<double[]>> walls, List<double[]> inside) {

    private static final BufferParameters SHARP =
            new BufferParameters(2, BufferParameters.CAP_ROUND, BufferParameters.JOIN_MITRE, 2);

    /**
     * @param lineWidthMm the first wall's middle lies half of this inside the outline
     * @param spacingMm   distance between the middles of neighbouring walls
     */
    static Insets of(Geometry area, int walls, double lineWidthMm, double spacingMm) {
        List<List<double[]>> loops = new ArrayList<>();
        Geometry rest = area;
        for (int wall = 0; wall < walls && !rest.isEmpty(); wall++) {
            rest = offset(rest, wall == 0 ? -lineWidthMm / 2 : -spacingMm);
            if (!rest.isEmpty()) {
                loops.add(Rings.of(rest));
            }
        }
        Geometry inside = walls == 0 ? area : offset(rest, -spacingMm / 2);
        return new Insets(loops, Rings.of(inside));
    }

    /** Outwards for positive, inwards for negative distances. */
    static Geometry offset(Geometry area, double distanceMm) {
        return BufferOp.bufferOp(area, distanceMm, SHARP);
    }
}
