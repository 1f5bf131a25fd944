package fabbrica.core.bed;

/**
 * Room that what is printed around and under a part takes on the bed.
 *
 * @param marginMm on every side of what stands on the bed (skirt, brim, raft)
 * @param heightMm under the part (raft)
 * @param propped  whether supports may stand on the bed under all of the part, so that it is all surrounded
 */
public record Allowance(double marginMm, double heightMm, boolean propped) {

    public static final Allowance NONE = new Allowance(0, 0, false);

    /** What it takes beyond the part seen from above, which may reach farther out than what stands on the bed. */
    public Allowance beyond(Footprint part) {
        return propped || part.insetMm() == 0 ? this
                : new Allowance(Math.max(0, marginMm - part.insetMm()), heightMm, false);
    }
}
