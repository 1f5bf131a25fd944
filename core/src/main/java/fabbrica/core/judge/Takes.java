package fabbrica.core.judge;

import fabbrica.core.estimate.Expected;

/** What a plate takes in all: plastic in grams, seconds from start to end. */
public record Takes(double grams, double seconds) {

    public static Takes of(Expected expected) {
        return new Takes(expected.grams(), expected.totalSeconds());
    }
}
