package fabbrica.core.toolpath;

import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;

/**
 * One round of lines along the outline of an area, each as wide as there is room for: where a line of the usual share fits
 * on both sides and another one between them, usual lines; where two fit, two that share the width; where one fits, one
 * along the middle. So widths vary without a step with the width of what is filled, but where the number of lines changes:
 * the idea of Kuipers, Doubrovski, Wu and Wang, "A Framework for Adaptive Width Control of Dense Contour-Parallel
 * Toolpaths in Fused Deposition Modeling", Computer-Aided Design 128 (2020). Their outline stays usual as long as it can;
 * here it does too, since the next round takes up what is left in the middle.
 *
 * @param left       what the lines leave, where there is room for more
 * @param thinLeft   whether some of what is left is surely too thin for another two lines and what they need inside them
 * @param leftOutMm2 too thin for any line
 */
record WallRound(List<WallLine> lines, List<Island> left, boolean thinLeft, double leftOutMm2) {

    /** Shares in parts of the usual: two lines from here on, a third between them from here on, each with some slack. */
    static final double TWO_FROM = 1.5;
    static final double THIRD_FROM = 0.55;
    static final double SLACK = 0.1;
    /** Where it is thick only around a bend or a knot, one line goes on up to this thickness, and two up to that. */
    private static final double TWO_AT_MOST = 1.9;
    private static final double THREE_AT_MOST = 3.2;
    private static final double SHORT = 10;
    private static final double STEP = 0.5;
    private static final double MIDDLE_STEP = 0.8;
    private static final double FARTHEST_MITRE = 4;

    /** @param wall number of the round; @param thinnestMm least share of a line; @param middles whether single lines are laid */
    static WallRound of(Island area, double shareMm, int wall, double thinnestMm, boolean middles) {
        return new Work(area, shareMm, THREE_AT_MOST, STEP * shareMm, thinnestMm, middles).round(wall);
    }

    /** Single lines where there is no room for two, and what is left elsewhere. */
    static WallRound middlesOf(Island area, double shareMm) {
        return new Work(area, shareMm, TWO_AT_MOST, MIDDLE_STEP * shareMm, 0, true).middles();
    }

    private static final class Work {

        private final Island area;
        private final double share;
        private final double step;
        private final double thinnest;
        private final boolean middles;
        private final LocalThickness thickness;
        private final List<WallLine> lines = new ArrayList<>();
        private double leftOut;

        Work(Island area, double share, double thickest, double step, double thinnest, boolean middles) {
            this.area = area;
            this.share = share;
            this.thinnest = thinnest;
            this.middles = middles;
            this.thickness = new LocalThickness(area.rings(), (thickest + SLACK) / 2 * share, step);
            this.step = step;
        }

        WallRound round(int wall) {
            boolean[] two = two(), usual = atLeast(2 + THIRD_FROM, THREE_AT_MOST);
            for (int ring = 0; ring < thickness.ringCount(); ring++) {
                follow(ring, two, usual, wall);
            }
            layMiddles(two);
            List<Island> left = thicker(usual, (2 + THIRD_FROM - SLACK) * share / 2, share);
            return new WallRound(lines, left, left.size() == 1 && thickness.anyFacing(), leftOut);
        }

        WallRound middles() {
            boolean[] two = two();
            layMiddles(two);
            return new WallRound(lines, thicker(two, (TWO_FROM - SLACK) * share / 2, 0), false, leftOut);
        }

        private boolean[] two() {
            return atLeast(TWO_FROM, TWO_AT_MOST);
        }

        private boolean[] atLeast(double lines, double atMostLines) {
            return thickness.atLeast(lines * share, SLACK * share, SHORT * share, atMostLines * share);
        }

        private void layMiddles(boolean[] two) {
            boolean[] laid = thickness.atLeast(0.97 * thinnest, 0.02 * thinnest, 0, 0), single = new boolean[two.length];
            boolean any = false, some = false;
            double thin = 0;
            for (int i = 0; i < single.length; i++) {
                single[i] = !two[i] && laid[i];
                any |= two[i];
                some |= single[i];
                if (!laid[i] && thickness.facing(i) && i + 1 < single.length) {
                    thin += thickness.radiusMm(i)
                            * Math.hypot(thickness.x(i + 1) - thickness.x(i), thickness.y(i + 1) - thickness.y(i));
                }
            }
            leftOut = any || some ? thin : area.areaMm2();
            if (middles && some) {
                List<WallLine> found = MiddleLines.of(thickness, single, two, step);
                lines.addAll(found);
                if (!any && found.isEmpty()) {
                    lines.add(MiddleLines.dot(thickness, area.areaMm2()));
                }
            }
        }

        /** The parts of the area, without its outer {@code depthMm}, that hang together around places that are thick. */
        private List<Island> thicker(boolean[] thick, double discMm, double depthMm) {
            boolean all = true, any = false;
            for (boolean place : thick) {
                all &= place;
                any |= place;
            }
            if (!any || all) {
                return !any ? List.of() : List.of(depthMm == 0 ? area : Offset.plainly(area, depthMm));
            }
            List<Island> kept = Offset.inwards(area, discMm).stream().filter(core -> holdsAny(core, thick, discMm))
                    .toList();
            return Offset.outwards(kept, discMm - depthMm);
        }

        private boolean holdsAny(Island core, boolean[] thick, double discMm) {
            double[] outline = core.outline();
            var box = Rings.box(outline);
            for (int i = 0; i < thick.length; i++) {
                if (thick[i] && thickness.stretch(i) > 0 && thickness.radiusMm(i) > discMm) {
                    double in = Math.min(thickness.radiusMm(i), discMm + SLACK * share / 4) * thickness.stretch(i);
                    double x = thickness.x(i) + in * thickness.normalX(i), y = thickness.y(i) + in * thickness.normalY(i);
                    if (box.contains(x, y) && core.contains(x, y)) {
                        return true;
                    }
                }
            }
            return false;
        }

        /** The lines beside one ring, in as many pieces as there are gaps in it. */
        private void follow(int ring, boolean[] two, boolean[] usual, int wall) {
            int start = thickness.ringStart(ring), size = thickness.ringStart(ring + 1) - start, gap = -1;
            boolean plain = true;
            for (int i = 0; i < size && gap < 0; i++) {
                gap = two[start + i] ? -1 : i;
                plain &= usual[start + i];
            }
            if (plain) {
                double[] moved = RingOffset.of(area.rings().get(ring), share / 2).ring();
                lines.add(WallLine.plain(moved, wall));
                return;
            }
            Side side = new Side();
            for (int i = 0; i <= size; i++) {
                int at = start + (Math.max(0, gap) + i) % size;
                if (!two[at]) {
                    side.finish(false, wall);
                } else if (i < size) {
                    side.add(at, usual[at] ? share : thickness.thicknessMm(at) / 2);
                }
            }
            side.finish(gap < 0, wall);
        }

        /** A line beside the outline that grows place by place. */
        private final class Side {

            private double[] points = new double[128];
            private double[] shares = new double[64];
            private int count;
            private int first;
            private int last;

            void add(int place, double shareMm) {
                double in = shareMm / 2 * thickness.stretch(place);
                if (in == 0 || thickness.radiusMm(place) < in - 1e-6) {
                    return;
                }
                double x = thickness.x(place) + in * thickness.normalX(place);
                double y = thickness.y(place) + in * thickness.normalY(place);
                if (count == 0) {
                    first = place;
                } else {
                    corner(place, x, y, shareMm);
                }
                last = place;
                put(x, y, shareMm);
            }

            private void corner(int place, double x, double y, double shareMm) {
                double between = (shares[count - 1] + shareMm) / 2;
                thickness.mitre(last, points[2 * count - 2], points[2 * count - 1], place, x, y, FARTHEST_MITRE * share)
                        .ifPresent(at -> put(at[0], at[1], between));
            }

            private void put(double x, double y, double shareMm) {
                if (count == shares.length) {
                    points = Arrays.copyOf(points, 4 * count);
                    shares = Arrays.copyOf(shares, 2 * count);
                }
                points[2 * count] = x;
                points[2 * count + 1] = y;
                shares[count++] = shareMm;
            }

            void finish(boolean closed, int wall) {
                if (count > (closed ? 2 : 1)) {
                    if (closed) {
                        corner(first, points[0], points[1], shares[0]);
                    }
                    lines.add(WallLine.simplified(Arrays.copyOf(points, 2 * count), Arrays.copyOf(shares, count), closed,
                            wall));
                }
                count = 0;
            }
        }
    }
}
