package fabbrica.core.gcode;

import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;

/** What a file asks for that could not be taken at its word: each kind once, with its first line and how often it comes. */
public final class Cautions {

    private final Map<String, Caution> kinds = new LinkedHashMap<>();

    /**
     * @param line    of the file, the first of its kind
     * @param what    is the matter, a clause
     * @param atLeast whether the print may take longer than what is worked out
     */
    public record Caution(long line, String what, boolean atLeast, int count) {

        public String sentence() {
            return "Line %d%s: %s.%s".formatted(line, count > 1 ? " and %d more".formatted(count - 1) : "", what,
                    atLeast ? " The print takes at least the time shown." : "");
        }
    }

    void add(long line, String what, boolean atLeast) {
        kinds.merge(what, new Caution(line, what, atLeast, 1),
                (first, again) -> new Caution(first.line(), what, atLeast, first.count() + 1));
    }

    List<Caution> all() {
        return List.copyOf(kinds.values());
    }
}
