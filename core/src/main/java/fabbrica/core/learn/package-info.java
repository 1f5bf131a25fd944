/**
 * What runs teach: calibrations of printers, how reliable they are, and when that has moved. From promised and real seconds and grams and from how runs ended,
 * for promises and for the Ledger; only a {@link fabbrica.core.estimate.Calibration} flows back into what is promised.
 */
@NullMarked
package fabbrica.core.learn;

import org.jspecify.annotations.NullMarked;
