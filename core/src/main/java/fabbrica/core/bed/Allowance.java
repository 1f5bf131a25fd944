package fabbrica.core.bed;

/**
 * Room that what is printed around and under a part takes on the bed.
 *
 * @param marginMm on every side (skirt, brim, raft)
 * @param heightMm under the part (raft)
 */
public record Allowance(double marginMm, double heightMm) {

    public static final Allowance NONE = new Allowance(0, 0);
}
