package fabbrica.core.gcode;

import fabbrica.core.toolpath.PathType;
import java.util.Locale;
import java.util.Optional;

/** What kind of path a comment announces, told by the plain words in it; a hint, never more. */
final class PathHint {

    private PathHint() {
    }

    static Optional<PathType> of(String comment) {
        String words = comment.toLowerCase(Locale.ROOT).replace('_', ' ').replace('-', ' ');
        if (words.length() > 60) {
            return Optional.empty();
        }
        if (has(words, "skirt", "brim", "raft", "adhesion")) {
            return Optional.of(PathType.ADHESION);
        }
        if (has(words, "support")) {
            return Optional.of(has(words, "face", "interface") ? PathType.SUPPORT_FACE : PathType.SUPPORT);
        }
        if (has(words, "bridge")) {
            return Optional.of(PathType.BRIDGE);
        }
        if (has(words, "solid", "skin", "top surface", "bottom surface", "closed")) {
            return Optional.of(PathType.SOLID);
        }
        if (has(words, "thin", "gap")) {
            return Optional.of(PathType.THIN_LINE);
        }
        if (has(words, "wall", "perimeter")) {
            return Optional.of(has(words, "outer", "external") ? PathType.OUTER_WALL : PathType.INNER_WALL);
        }
        if (has(words, "infill", "fill")) {
            return Optional.of(PathType.INFILL);
        }
        return has(words, "purge", "prime", "tower") ? Optional.of(PathType.PURGE) : Optional.empty();
    }

    private static boolean has(String text, String... words) {
        for (String word : words) {
            if (text.contains(word)) {
                return true;
            }
        }
        return false;
    }
}
