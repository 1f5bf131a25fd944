package fabbrica.core.gcode;

import java.util.ArrayList;
import java.util.List;
import java.util.Optional;

/**
 * An arc as RS-274 has it: in a plane from one place about a centre to another, going straight along the axis across the
 * plane, or all the way around when both places are one.
 *
 * @param from    x, y, z in mm
 * @param centreA along the first axis of the plane
 * @param centreB along the second
 */
record Arc(Plane plane, double[] from, double[] to, double centreA, double centreB, boolean clockwise) {

    /** Chords stray from the arc by no more than this. */
    private static final double CHORD_MM = 0.01;
    private static final double NOTHING = 1e-9;

    /** From the first axis to the second against the clock, with the words for the offsets of the centre along them. */
    enum Plane {
        XY(0, 1, 2, 'I', 'J'), ZX(2, 0, 1, 'K', 'I'), YZ(1, 2, 0, 'J', 'K');

        final int first;
        final int second;
        final char firstOffset;
        final char secondOffset;
        private final int third;

        Plane(int first, int second, int third, char firstOffset, char secondOffset) {
            this.first = first;
            this.second = second;
            this.third = third;
            this.firstOffset = firstOffset;
            this.secondOffset = secondOffset;
        }
    }

    /** The shorter one of a radius, or the longer one when that is negative; nothing when it does not reach, or the ends are one. */
    static Optional<Arc> ofRadius(Plane plane, double[] from, double[] to, double radiusMm, boolean clockwise) {
        double a = to[plane.first] - from[plane.first], b = to[plane.second] - from[plane.second], chord = Math.hypot(a, b);
        if (Math.abs(radiusMm) < chord / 2 - CHORD_MM || chord < NOTHING) {
            return Optional.empty();
        }
        double high = Math.sqrt(Math.max(0, radiusMm * radiusMm - chord * chord / 4)) / chord;
        double side = clockwise == radiusMm > 0 ? -high : high;
        return Optional.of(new Arc(plane, from, to, from[plane.first] + a / 2 - side * b, from[plane.second] + b / 2 + side * a,
                clockwise));
    }

    /**
     * The ends of chords, the last of them the end of the arc.
     *
     * @param most chords; a huge arc strays further from as many
     */
    List<double[]> places(int most) {
        double a = from[plane.first] - centreA, b = from[plane.second] - centreB, radius = Math.hypot(a, b);
        double start = Math.atan2(b, a), end = Math.atan2(to[plane.second] - centreB, to[plane.first] - centreA);
        double sweep = clockwise ? start - end : end - start;
        sweep = sweep <= NOTHING ? sweep + 2 * Math.PI : sweep;
        double widest = 2 * Math.acos(Math.clamp(1 - CHORD_MM / Math.max(CHORD_MM, radius), -1, 1));
        int chords = (int) Math.clamp(Math.ceil(sweep / widest), 1, most);
        List<double[]> places = new ArrayList<>();
        for (int i = 1; i < chords; i++) {
            double part = (double) i / chords, angle = start + (clockwise ? -sweep : sweep) * part;
            double[] at = new double[3];
            at[plane.first] = centreA + radius * Math.cos(angle);
            at[plane.second] = centreB + radius * Math.sin(angle);
            at[plane.third] = from[plane.third] + (to[plane.third] - from[plane.third]) * part;
            places.add(at);
        }
        places.add(to);
        return places;
    }
}
