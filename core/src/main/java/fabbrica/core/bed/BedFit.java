package fabbrica.core.bed;

import fabbrica.core.units.Spoken;
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
    private static final GeometryFactory PLANE = new GeometryFactory();

    public static BedFit of(Footprint part, Bed bed, Allowance allowance) {
        return new Search(part, bed, allowance).result();
    }

    private record Place(double x, double y) {
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
                    Optional<Place> place = place(degrees, 1);
                    if (place.isPresent()) {
                        return fitting(degrees, bed.keepOut().isEmpty() ? freeScale : Math.max(1,
                                largestScale(best, freeScale)), place.get());
                    }
                }
            }
            double largest = bed.keepOut().isEmpty() ? freeScale : largestScale(best, freeScale);
            return new BedFit(false, Math.toDegrees(best), roundedDown(largest), 0, 0, refusal(best));
        }

        private BedFit fitting(double degrees, double largest, Place place) {
            String why = degrees == 0 ? "Fits as it lies." : "Fits turned by %s°.".formatted(Spoken.number(degrees, 1));
            return new BedFit(true, degrees, Math.max(1, roundedDown(largest)), place.x(), place.y(), why);
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
                if (DoubleStream.of(turns(best)).anyMatch(degrees -> place(degrees, scale).isPresent())) {
                    fits = scale;
                } else {
                    tooBig = scale;
                }
            }
            return Math.min(fits, freeScale);
        }

        private Optional<Place> place(double degrees, double scale) {
            if (extents.scaleAt(Math.toRadians(degrees), width, depth) < scale * (1 - 1e-9)) {
                return Optional.empty();
            }
            if (bed.keepOut().isEmpty()) {
                return Optional.of(new Place(bed.widthMm() / 2, bed.depthMm() / 2));
            }
            return besideZones(centredHull(degrees, scale));
        }

        private Optional<Place> besideZones(Coordinate[] hull) {
            double halfWidth = 0, halfDepth = 0;
            for (Coordinate corner : hull) {
                halfWidth = Math.max(halfWidth, Math.abs(corner.x));
                halfDepth = Math.max(halfDepth, Math.abs(corner.y));
            }
            double marginX = allowance.marginMm() + halfWidth - EXACT_MM;
            double marginY = allowance.marginMm() + halfDepth - EXACT_MM;
            Geometry places = PLANE.toGeometry(new Envelope(marginX, bed.widthMm() - marginX, marginY,
                    bed.depthMm() - marginY));
            for (Bed.Zone zone : bed.keepOut()) {
                places = places.difference(grown(zone, hull));
            }
            if (places.isEmpty()) {
                return Optional.empty();
            }
            Coordinate centre = new Coordinate(bed.widthMm() / 2, bed.depthMm() / 2);
            Coordinate nearest = DistanceOp.nearestPoints(places, PLANE.createPoint(centre))[0];
            return Optional.of(new Place(nearest.x, nearest.y));
        }

        /** Centres at which the hull would overlap the zone: the zone and its margin plus the mirrored hull. */
        private Geometry grown(Bed.Zone zone, Coordinate[] hull) {
            double margin = allowance.marginMm() - EXACT_MM;
            double[] xs = {zone.minX() - margin, zone.maxX() + margin};
            double[] ys = {zone.minY() - margin, zone.maxY() + margin};
            Coordinate[] sums = new Coordinate[4 * hull.length];
            int count = 0;
            for (Coordinate corner : hull) {
                for (double x : xs) {
                    for (double y : ys) {
                        sums[count++] = new Coordinate(x - corner.x, y - corner.y);
                    }
                }
            }
            return new ConvexHull(sums, PLANE).getConvexHull();
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
