package fabbrica.core.judge;

import fabbrica.core.units.OutOfRange;
import java.util.Objects;

/**
 * The rules of a house.
 *
 * @param fairGrams         of plastic a member and month; 0 for no limit
 * @param fairHours         of machines a member and month; 0 for no limit
 * @param fairUseStops      whether more than that is refused, or only asked about
 * @param badgesRequired    whether prints of members without the printer's badge are refused there, or only pointed out
 * @param grownUpsRequired  whether a minor's are refused until a grown-up is named
 * @param unattended        whether anything may run while nobody is there, on printers that may
 * @param trinketMinutes    a small thing to look at that takes longer is asked about; 0 for never
 * @param trinketCm3        what counts as small, by its volume
 * @param reserveG          to be left on a spool after a print
 * @param refused           what the house does not print, in its own words; may be empty
 * @param bedCare           how its beds are kept
 */
public record Policy(double fairGrams, double fairHours, boolean fairUseStops, boolean badgesRequired, boolean grownUpsRequired,
                     boolean unattended, double trinketMinutes, double trinketCm3, double reserveG, String refused, BedCare bedCare) {

    /**
     * Nothing but what is always so: half an hour of machine for a trinket is worth a question, and a few grams stay on the spool
     * (common practice, no source).
     */
    public static final Policy USUAL = new Policy(0, 0, false, false, false, true, 30, 5, 5, "", BedCare.USUAL);

    /** A null for bed care, as in rules that were kept before it was asked about, is the usual one. */
    public Policy {
        bedCare = Objects.requireNonNullElse(bedCare, BedCare.USUAL);
        OutOfRange.check("Fair use, grams", fairGrams, 0, 1_000_000, "g");
        OutOfRange.check("Fair use, hours", fairHours, 0, 1000, "h");
        OutOfRange.check("A trinket takes", trinketMinutes, 0, 10_000, "min");
        OutOfRange.check("A trinket has", trinketCm3, 0, 10_000, "cm³");
        OutOfRange.check("Left on a spool", reserveG, 0, 1000, "g");
    }
}
