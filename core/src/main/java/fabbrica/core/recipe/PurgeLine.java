package fabbrica.core.recipe;

import fabbrica.core.bed.Bed;

/**
 * The line along the front edge of the bed on which the usual start purges the nozzle, beside what the bed keeps free there.
 *
 * @param fromX where it begins
 * @param y     distance from the front edge
 */
public record PurgeLine(double fromX, double toX, double y) {

    private static final double LONGEST_MM = 60;
    private static final double EDGE_MM = 2;
    /** What a thick line and its ends take on either side. */
    private static final double MARGIN_MM = 1;

    public static PurgeLine on(Bed bed) {
        double from = bed.keepOut().stream().filter(zone -> zone.minY() < EDGE_MM + MARGIN_MM).mapToDouble(Bed.Zone::maxX)
                .filter(x -> x < bed.widthMm() / 2).max().orElse(EDGE_MM) + 2 * MARGIN_MM;
        double to = bed.keepOut().stream().filter(zone -> zone.minY() < EDGE_MM + MARGIN_MM).mapToDouble(Bed.Zone::minX)
                .filter(x -> x > from).min().orElse(bed.widthMm() - EDGE_MM) - 2 * MARGIN_MM;
        return new PurgeLine(from, Math.min(to, from + LONGEST_MM), EDGE_MM);
    }

    /** What it takes of the bed. */
    public Bed.Zone zone() {
        return new Bed.Zone(Math.max(0, fromX - MARGIN_MM), 0, toX + MARGIN_MM, y + MARGIN_MM);
    }
}
