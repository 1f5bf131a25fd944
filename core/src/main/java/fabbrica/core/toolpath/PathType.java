package fabbrica.core.toolpath;

import java.util.Locale;

/** What a path is for, so that every second and gram can be told apart. */
public enum PathType {
    /** Skirt, brim and raft. */
    ADHESION("skirt, brim, raft"),
    /** The body of what is broken off afterwards. */
    SUPPORT("supports"),
    /** The closed layers of supports, right under the part. */
    SUPPORT_FACE("support faces"),
    INNER_WALL("inner walls"),
    OUTER_WALL("outer walls"),
    /** Single lines where there is no room for two. */
    THIN_LINE("thin lines"),
    /** Closed layers at top and bottom. */
    SOLID("closed layers"),
    /** Closed layers that are laid over air from one hold to another. */
    BRIDGE("bridges"),
    INFILL("infill"),
    /** Where old filament is purged. */
    PURGE("purging"),
    /** Laid by a file that does not say what for. */
    OTHER("lines"),
    /** Without extruding. */
    TRAVEL("travel");

    private final String label;

    PathType(String label) {
        this.label = label;
    }

    public String code() {
        return name().toLowerCase(Locale.ROOT);
    }

    public String label() {
        return label;
    }

    public boolean isWall() {
        return this == OUTER_WALL || this == INNER_WALL;
    }
}
