package fabbrica.core.estimate;

import fabbrica.core.toolpath.PathType;
import java.util.Locale;

/** Where the time of a run goes: getting ready, then moving. */
public enum Phase {
    HEAT_BED("heating the bed", true),
    HEAT_NOZZLE("heating the nozzle", true),
    HOME("homing", true),
    LEVEL("levelling", true),
    FLOW("flow calibration", true),
    PURGE("purging", true),
    ADHESION(PathType.ADHESION),
    SUPPORT(PathType.SUPPORT),
    SUPPORT_FACE(PathType.SUPPORT_FACE),
    OUTER_WALL(PathType.OUTER_WALL),
    INNER_WALL(PathType.INNER_WALL),
    THIN_LINE(PathType.THIN_LINE),
    SOLID(PathType.SOLID),
    BRIDGE(PathType.BRIDGE),
    INFILL(PathType.INFILL),
    PURGE_TOWER("purging while printing", false),
    OTHER(PathType.OTHER),
    TRAVEL("travel", false),
    RETRACTION("drawing filament back", false),
    CHANGE("changing filament", false),
    PICTURES("pictures", false),
    DWELL("waiting as told", false),
    END("parking at the end", false);

    private final String label;
    private final boolean preparation;

    Phase(PathType type) {
        this(type.label(), false);
    }

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

    /** With what it is learned; a purge is motion, whenever it happens. */
    public Stage stage() {
        return switch (this) {
            case HEAT_BED, HEAT_NOZZLE -> Stage.HEATING;
            case HOME, LEVEL, FLOW -> Stage.READYING;
            default -> Stage.PRINTING;
        };
    }

    static Phase of(PathType type) {
        return type == PathType.PURGE ? PURGE_TOWER : valueOf(type.name());
    }
}
