package fabbrica.core.judge;

import fabbrica.core.inspect.Stand;
import fabbrica.core.recipe.Adhesion;
import fabbrica.core.units.Spoken;

/**
 * What should help the first layer of a part, by how it stands: schools and figures are common practice, no source. A
 * lab that prints on rafts always is followed; else a raft holds what touches the bed in little more than a point, a
 * brim what has little contact for its height, and a skirt is enough for the rest.
 *
 * @param reason a sentence
 */
public record AdhesionAdvice(Adhesion adhesion, String reason) {

    private static final double POINT_MM2 = 4;

    /** Whether it holds more firmly than another. */
    boolean exceeds(Adhesion other) {
        return holds(adhesion) > holds(other);
    }

    private static int holds(Adhesion adhesion) {
        return switch (adhesion) {
            case NONE, SKIRT -> 0;
            case EARS, BRIM -> 1;
            case RAFT -> 2;
        };
    }

    public static AdhesionAdvice of(Stand stand, boolean raftAlways) {
        String contact = "%s mm²".formatted(Spoken.number(stand.contactMm2(), stand.contactMm2() < 10 ? 1 : 0));
        if (raftAlways) {
            return new AdhesionAdvice(Adhesion.RAFT, "The lab puts a raft under every part on this printer.");
        }
        if (stand.contactMm2() < POINT_MM2) {
            return new AdhesionAdvice(Adhesion.RAFT, "It touches the bed with only %s: a brim would have nothing to hold."
                    .formatted(contact));
        }
        if (!stand.stable()) {
            return new AdhesionAdvice(Adhesion.BRIM, "It is tall for its foot and easily knocked over.");
        }
        return stand.smallContact() ? new AdhesionAdvice(Adhesion.BRIM, "It lies on the bed with only %s under %s mm of height."
                        .formatted(contact, Spoken.number(stand.heightMm(), 0)))
                : new AdhesionAdvice(Adhesion.SKIRT, "It lies on the bed with %s.".formatted(contact));
    }
}
