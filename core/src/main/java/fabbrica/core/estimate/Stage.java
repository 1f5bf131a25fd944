package fabbrica.core.estimate;

/** The parts of a run's time in which machines differ from their figures each in its own way. */
public enum Stage {
    HEATING, READYING, PRINTING
}
