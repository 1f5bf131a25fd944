package fabbrica.core.toolpath;

/**
 * The heights of a part's layers above its lowest point: the first layer apart, the rest equal. The last layer is the
 * one whose top reaches the part's height to within a hundredth of a layer.
 */
record LayerStack(double firstMm, double otherMm, int count) {

    private static final double WHOLE = 0.01;

    static LayerStack of(double heightMm, double firstMm, double otherMm) {
        int others = (int) Math.ceil((heightMm - firstMm) / otherMm - WHOLE);
        return new LayerStack(firstMm, otherMm, 1 + Math.max(0, others));
    }

    double heightMm(int layer) {
        return layer == 0 ? firstMm : otherMm;
    }

    double topMm(int layer) {
        return firstMm + layer * otherMm;
    }

    /** Layers are cut at half their height. */
    double cutMm(int layer) {
        return topMm(layer) - heightMm(layer) / 2;
    }

    /** The first layer whose cut lies above the given height. */
    int firstCutAbove(double heightMm) {
        if (heightMm < cutMm(0)) {
            return 0;
        }
        double others = (heightMm - firstMm) / otherMm + 0.5;
        int guess = Math.max(0, (int) Math.floor(others));
        while (guess > 0 && cutMm(guess) > heightMm) {
            guess--;
        }
        while (guess < count && cutMm(guess) <= heightMm) {
            guess++;
        }
        return guess;
    }
}
