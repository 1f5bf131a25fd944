package fabbrica.core.judge;

import fabbrica.core.estimate.Estimate;

/** What a plate takes in all: plastic in grams, seconds from start to end. */
public record Takes(double grams, double seconds) {

    public static Takes of(Estimate estimate) {
        return new Takes(estimate.grams(), estimate.totalSeconds());
    }
}
