package fabbrica.web.ticket;

import fabbrica.core.inspect.Finding;
import fabbrica.core.inspect.Place;
import java.util.ArrayList;
import java.util.List;

/**
 * A finding whose places carry the numbers they have in the drawings.
 *
 * @param firstPin the number of its first place; the others follow
 */
public record PinnedFinding(Finding finding, int firstPin) {

    public static List<PinnedFinding> of(List<Finding> findings) {
        List<PinnedFinding> pinned = new ArrayList<>();
        int next = 1;
        for (Finding finding : findings) {
            pinned.add(new PinnedFinding(finding, next));
            next += finding.places().size();
        }
        return pinned;
    }

    public List<Pin> pins() {
        List<Pin> pins = new ArrayList<>();
        for (Place place : finding.places()) {
            pins.add(new Pin(firstPin + pins.size(), place));
        }
        return pins;
    }

    /** A numbered place. */
    public record Pin(int number, Place place) {
    }
}
