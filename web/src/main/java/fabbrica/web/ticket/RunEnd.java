package fabbrica.web.ticket;

import fabbrica.core.run.Defect;
import java.util.List;

/**
 * What somebody reports when a run has ended.
 *
 * @param photoSha256 null when there is none
 */
public record RunEnd(double realMinutes, double realG, List<Defect> defects, String cause, String note,
                     String photoSha256, String photoType) {

    public RunEnd {
        defects = List.copyOf(defects);
    }
}
