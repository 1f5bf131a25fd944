package fabbrica.core.bed;

import fabbrica.core.units.OutOfRange;
import java.util.ArrayList;
import java.util.List;

/**
 * A rectangular printable area with a height limit, seen from above with the origin at its front left corner.
 *
 * @param keepOut rectangles that no part may touch: purge block, clips
 */
public record Bed(double widthMm, double depthMm, double heightMm, List<Zone> keepOut) {

    private static final double LARGEST_MM = 5000;

    public Bed {
        OutOfRange.check("Bed width", widthMm, 10, LARGEST_MM, "mm");
        OutOfRange.check("Bed depth", depthMm, 10, LARGEST_MM, "mm");
        OutOfRange.check("Print height", heightMm, 10, LARGEST_MM, "mm");
        keepOut = List.copyOf(keepOut);
    }

    public static Bed of(double widthMm, double depthMm, double heightMm) {
        return new Bed(widthMm, depthMm, heightMm, List.of());
    }

    /** The same bed with one more zone to be kept free. */
    public Bed without(Zone zone) {
        List<Zone> zones = new ArrayList<>(keepOut);
        zones.add(zone);
        return new Bed(widthMm, depthMm, heightMm, zones);
    }

    /** Whether a place lies in a part of the bed that nothing may touch. */
    public boolean keepsFree(double x, double y) {
        for (Zone zone : keepOut) {
            if (x > zone.minX() && x < zone.maxX() && y > zone.minY() && y < zone.maxY()) {
                return true;
            }
        }
        return false;
    }

    /** A rectangle on the bed, in bed coordinates. */
    public record Zone(double minX, double minY, double maxX, double maxY) {

        public Zone {
            if (!(minX < maxX && minY < maxY)) {
                throw new OutOfRange("A keep-out zone needs its left edge left of its right one and its front edge "
                        + "before its back one.");
            }
        }
    }
}
