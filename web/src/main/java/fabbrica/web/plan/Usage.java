package fabbrica.web.plan;

import fabbrica.core.estimate.Tariff.Used;
import java.util.List;
import java.util.Map;

/** What runs tell whoever plans. */
public interface Usage {

    /** What members' prints took since the first of this month; those that took nothing are left out. */
    Map<Long, Used> usedThisMonth(List<Long> members);

    /** Share of a printer's runs that failed, 0 to below 1; few runs are taken as twenty, so that a first failure does not double a price. */
    double failureShare(String printerId);
}
