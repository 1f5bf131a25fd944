package fabbrica.web.stores;

import fabbrica.core.estimate.Calibration;

/** What the runs of printers have taught about them by now; told by whoever keeps the runs. */
public interface Lessons {

    Calibration calibration(String printerId);
}
