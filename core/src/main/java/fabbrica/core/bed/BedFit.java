package fabbrica.core.bed;

import fabbrica.core.units.Spoken;
import java.util.Arrays;
import java.util.List;
import java.util.Optional;
import java.util.stream.DoubleStream;
import org.locationtech.jts.algorithm.ConvexHull;
import org.locationtech.jts.geom.Coordinate;
import org.locationtech.jts.geom.Envelope;
import org.locationtech.jts.geom.Geometry;
import org.locationtech.jts.geom.GeometryFactory;
import org.locationtech.jts.operation.distance.DistanceOp;

/**
 * Whether a part fits on a bed: straight, turned by a quarter, or turned about the vertical by the angle that leaves
 * most room; and the largest scale that fits.
 *
 * <p>On a free bed the angle and the scale are exact for the part's convex hull ({@link TurnedExtents}). With keep-out
 * zones the hull must also find a place beside them: for an angle the set of possible places is exact (the bed less
 * each zone grown by the hull, a Minkowski sum), the angles are tried in steps of {@value #STEP_DEG}° besides the best
 * ones of the free bed.
 *
 * @param rotationDeg  counter-clockwise about the vertical, seen from above: the turn at which the part fits, else the
 *                     one at which the largest scale would
 * @param largestScale largest uniform scale that fits, at least 1 when {@code fits}; rounded down to a thousandth
 * @param x            where the centre of the turned outline's box goes, in bed coordinates; meaningless unless it fits
 * @param why          a sentence
 */
public record BedFit(boolean fits, double rotationDeg, double largestScale, double x, double y, String why) {

    static final int STEP_DEG = 5;

    private static final double EXACT_MM = 1e-6;
    private static final double SCALE_STEP = 0.001;
    private static final int ROUNDS = 3;
    private static final GeometryFactory PLANE = new GeometryFactory();

    public static BedFit of(Footprint part, Bed bed, Allowance allowance) {
        Allowance beyond = allowance.beyond(part);
        BedFit fit = new Search(part, bed, beyond).result();
        return fit.fits || beyond.equals(allowance) ? fit : fit.withScale(largestScale(part, bed, allowance));
    }

    /** A smaller part stands nearer to its outline: what is surely left of its inset at one scale leads to a larger one. */
    private static double largestScale(Footprint part, Bed bed, Allowance allowance) {
        double scale = 0;
        for (int round = 0; round < ROUNDS; round++) {
            scale = new Search(part, bed, allowance.beyond(part.scaled(scale))).result().largestScale;
        }
        return scale;
    }

    private BedFit withScale(double scale) {
        return new BedFit(fits, rotationDeg, scale, x, y, why);
    }

    private static final class Search {

        private final Footprint part;
        private final Bed bed;
        private final Allowance allowance;
        private final double width;
        private final double depth;
        private final double height;
        private final TurnedExtents extents;

        Search(Footprint part, Bed bed, Allowance allowance) {
            this.part = part;
            this.bed = bed;
            this.allowance = allowance;
            this.width = bed.widthMm() - 2 * allowance.marginMm();
            this.depth = bed.depthMm() - 2 * allowance.marginMm();
            this.height = bed.heightMm() - allowance.heightMm();
            this.extents = new TurnedExtents(part);
        }

        BedFit result() {
            double best = extents.bestTurn(width, depth);
            double freeScale = Math.min(height / part.heightMm(), extents.scaleAt(best, width, depth));
            if (part.heightMm() <= height + EXACT_MM) {
                for (double degrees : turns(best)) {
                    Optional<Coordinate> place = place(degrees);
                    if (place.isPresent()) {
                        return fitting(degrees, bed.keepOut().isEmpty() ? freeScale : Math.max(1,
                                largestScale(best, freeScale)), place.get());
                    }
                }
            }
            double largest = bed.keepOut().isEmpty() ? freeScale : largestScale(best, freeScale);
            return new BedFit(false, Math.toDegrees(best), roundedDown(largest), 0, 0, refusal(best));
        }

        private BedFit fitting(double degrees, double largest, Coordinate place) {
            String why = degrees == 0 ? "Fits as it lies." : "Fits turned by %s°.".formatted(Spoken.number(degrees, 1));
            return new BedFit(true, degrees, Math.max(1, roundedDown(largest)), place.x, place.y, why);
        }

        /** Straight first, then a quarter turn, then the roomiest angle, then whatever else zones may ask for. */
        private double[] turns(double best) {
            DoubleStream first = DoubleStream.of(0, 90, Math.toDegrees(best));
            return bed.keepOut().isEmpty() ? first.toArray() : DoubleStream.concat(first, DoubleStream.concat(
                    DoubleStream.of(Math.toDegrees(best) + 180),
                    DoubleStream.iterate(STEP_DEG, degrees -> degrees < 360, degrees -> degrees + STEP_DEG)))
                    .toArray();
        }

        private double largestScale(double best, double freeScale) {
            double fits = 0, tooBig = freeScale + SCALE_STEP;
            while (tooBig - fits > SCALE_STEP / 2) {
                double scale = (fits + tooBig) / 2;
                if (DoubleStream.of(turns(best)).anyMatch(degrees -> hasPlace(degrees, scale))) {
                    fits = scale;
                } else {
                    tooBig = scale;
                }
            }
            return Math.min(fits, freeScale);
        }

        private boolean fitsWithin(double degrees, double scale) {
            return extents.scaleAt(Math.toRadians(degrees), width, depth) >= scale * (1 - 1e-9);
        }

        private boolean hasPlace(double degrees, double scale) {
            return fitsWithin(degrees, scale) && (bed.keepOut().isEmpty()
                    || new Places(centredHull(degrees, scale)).any());
        }

        private Optional<Coordinate> place(double degrees) {
            if (!fitsWithin(degrees, 1)) {
                return Optional.empty();
            }
            return bed.keepOut().isEmpty() ? Optional.of(centre())
                    : new Places(centredHull(degrees, 1)).nearestToCentre();
        }

        private Coordinate centre() {
            return new Coordinate(bed.widthMm() / 2, bed.depthMm() / 2);
        }

        /** Where the centre of a turned hull's box may go: a rectangle less each keep-out zone grown by the hull. */
        private final class Places {

            private final Coordinate[] hull;
            private final Envelope room;

            Places(Coordinate[] hull) {
                this.hull = hull;
                Envelope box = new Envelope();
                for (Coordinate corner : hull) {
                    box.expandToInclude(corner);
                }
                double marginX = allowance.marginMm() + box.getWidth() / 2 - EXACT_MM;
                double marginY = allowance.marginMm() + box.getHeight() / 2 - EXACT_MM;
                room = new Envelope(marginX, bed.widthMm() - marginX, marginY, bed.depthMm() - marginY);
            }

            /** A free corner settles it; so does one grown zone, convex as it is, over all four. */
            boolean any() {
                Coordinate[] corners = {new Coordinate(room.getMinX(), room.getMinY()),
                        new Coordinate(room.getMaxX(), room.getMinY()), new Coordinate(room.getMaxX(), room.getMaxY()),
                        new Coordinate(room.getMinX(), room.getMaxY())};
                List<Bed.Zone> zones = bed.keepOut();
                if (Arrays.stream(corners).anyMatch(c -> zones.stream().noneMatch(zone -> overlaps(zone, c)))) {
                    return true;
                }
                return zones.stream().noneMatch(zone -> Arrays.stream(corners).allMatch(c -> overlaps(zone, c)))
                        && !free().isEmpty();
            }

            Optional<Coordinate> nearestToCentre() {
                Coordinate centre = centre();
                if (room.contains(centre) && bed.keepOut().stream().noneMatch(zone -> overlaps(zone, centre))) {
                    return Optional.of(centre);
                }
                Geometry free = free();
                return free.isEmpty() ? Optional.empty()
                        : Optional.of(DistanceOp.nearestPoints(free, PLANE.createPoint(centre))[0]);
            }

            private Geometry free() {
                Geometry free = PLANE.toGeometry(room);
                for (Bed.Zone zone : bed.keepOut()) {
                    free = free.difference(grown(zone));
                }
                return free;
            }

            /** Whether the hull with its centre at {@code c} overlaps the zone: separating axes of two convex shapes. */
            private boolean overlaps(Bed.Zone zone, Coordinate c) {
                double margin = allowance.marginMm() - EXACT_MM;
                double minX = zone.minX() - margin - c.x, maxX = zone.maxX() + margin - c.x;
                double minY = zone.minY() - margin - c.y, maxY = zone.maxY() + margin - c.y;
                if (Arrays.stream(hull).allMatch(p -> p.x <= minX) || Arrays.stream(hull).allMatch(p -> p.x >= maxX)
                        || Arrays.stream(hull).allMatch(p -> p.y <= minY)
                        || Arrays.stream(hull).allMatch(p -> p.y >= maxY)) {
                    return false;
                }
                for (int i = 0; i < hull.length; i++) {
                    Coordinate from = hull[i], to = hull[(i + 1) % hull.length];
                    double dx = to.x - from.x, dy = to.y - from.y;
                    // The zone's corner that reaches farthest to the inner, left side of this edge.
                    double x = dy > 0 ? minX : maxX, y = dx > 0 ? maxY : minY;
                    if (dx * (y - from.y) - dy * (x - from.x) <= 0) {
                        return false;
                    }
                }
                return true;
            }

            /** Centres at which the hull would overlap the zone: the zone and its margin plus the mirrored hull. */
            private Geometry grown(Bed.Zone zone) {
                double margin = allowance.marginMm() - EXACT_MM;
                Coordinate[] sums = new Coordinate[4 * hull.length];
                int count = 0;
                for (Coordinate corner : hull) {
                    for (double x : new double[] {zone.minX() - margin, zone.maxX() + margin}) {
                        for (double y : new double[] {zone.minY() - margin, zone.maxY() + margin}) {
                            sums[count++] = new Coordinate(x - corner.x, y - corner.y);
                        }
                    }
                }
                return new ConvexHull(sums, PLANE).getConvexHull();
            }
        }

        /** The turned and scaled hull about the centre of its box. */
        private Coordinate[] centredHull(double degrees, double scale) {
            double cos = Math.cos(Math.toRadians(degrees)) * scale, sin = Math.sin(Math.toRadians(degrees)) * scale;
            Coordinate[] turned = new Coordinate[part.cornerCount()];
            Envelope box = new Envelope();
            for (int i = 0; i < turned.length; i++) {
                double x = part.hull()[2 * i], y = part.hull()[2 * i + 1];
                turned[i] = new Coordinate(cos * x - sin * y, sin * x + cos * y);
                box.expandToInclude(turned[i]);
            }
            Coordinate centre = box.centre();
            for (Coordinate corner : turned) {
                corner.x -= centre.x;
                corner.y -= centre.y;
            }
            return turned;
        }

        private String refusal(double best) {
            if (part.heightMm() > height + EXACT_MM) {
                return "Too tall by %s mm.".formatted(Spoken.number(part.heightMm() - height, 1));
            }
            double scale = extents.scaleAt(best, width, depth);
            return scale >= 1 ? "No place beside the keep-out zones at any angle."
                    : "Too large for the bed at any angle about the vertical.";
        }

        private static double roundedDown(double scale) {
            return Math.max(0, Math.floor(scale / SCALE_STEP + 1e-6) * SCALE_STEP);
        }
    }
}
