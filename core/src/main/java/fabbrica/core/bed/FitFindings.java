package fabbrica.core.bed;

import fabbrica.core.inspect.Finding;
import fabbrica.core.inspect.Finding.Code;
import fabbrica.core.inspect.Severity;
import fabbrica.core.units.Spoken;
import java.util.Collection;
import java.util.Optional;

/** Judges how a part fits the lab's printers together. */
public final class FitFindings {

    private FitFindings() {
    }

    /** A block when no printer can take the part, nothing when at least one can or there are no printers. */
    public static Optional<Finding> of(Collection<BedFit> fits) {
        if (fits.isEmpty() || fits.stream().anyMatch(BedFit::fits)) {
            return Optional.empty();
        }
        double largest = fits.stream().mapToDouble(BedFit::largestScale).max().orElseThrow();
        return Optional.of(Finding.everywhere(Code.TOO_BIG, Severity.BLOCK, 1, "Too big for every printer of the lab.",
                "What does not lie on the bed within its height cannot be printed in one piece.",
                "Scale it to %s %% or less, split it, or decline.".formatted(Spoken.number(largest * 100, 1))));
    }
}
