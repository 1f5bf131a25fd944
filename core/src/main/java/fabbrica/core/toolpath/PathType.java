package fabbrica.core.toolpath;

import java.util.Locale;

/** What a path is for, so that every second and gram can be told apart. */
public enum PathType {
    /** Skirt, brim and raft. */
    ADHESION,
    OUTER_WALL,
    INNER_WALL,
    /** Closed layers at top and bottom. */
    SOLID,
    INFILL;

    public String code() {
        return name().toLowerCase(Locale.ROOT);
    }
}
