package fabbrica.core.estimate;

import java.util.Locale;

/** Where the time of a run goes: getting ready, then moving. */
public enum Phase {
    HEAT_BED("heating the bed", true),
    HEAT_NOZZLE("heating the nozzle", true),
    HOME("homing", true),
    LEVEL("levelling and calibration", true),
    PURGE("purging", true),
    ADHESION("skirt, brim, raft", false),
    OUTER_WALL("outer walls", false),
    INNER_WALL("inner walls", false),
    SOLID("closed layers", false),
    INFILL("infill", false),
    TRAVEL("travel", false),
    RETRACTION("drawing filament back", false);

    private final String label;
    private final boolean preparation;

    Phase(String label, boolean preparation) {
        this.label = label;
        this.preparation = preparation;
    }

    public String code() {
        return name().toLowerCase(Locale.ROOT);
    }

    public String label() {
        return label;
    }

    public boolean isPreparation() {
        return preparation;
    }
}
