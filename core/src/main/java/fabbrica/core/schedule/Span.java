package fabbrica.core.schedule;

import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;

/** A stretch of time, both ends included; one that ends before it begins holds no moment. */
public record Span(Instant from, Instant to) {

    public Duration length() {
        return Duration.between(from, to);
    }

    /** All that lies in any of some stretches, in order, those that touch as one. */
    public static List<Span> joined(List<Span> spans) {
        List<Span> joined = new ArrayList<>();
        for (Span span : spans.stream().sorted(Comparator.comparing(Span::from)).toList()) {
            if (!joined.isEmpty() && !joined.getLast().to.isBefore(span.from)) {
                joined.set(joined.size() - 1, new Span(joined.getLast().from, later(joined.getLast().to, span.to)));
            } else {
                joined.add(span);
            }
        }
        return joined;
    }

    /** What two lists of stretches, each in order and apart, have in common; moments alone are left out. */
    public static List<Span> common(List<Span> some, List<Span> others) {
        List<Span> common = new ArrayList<>();
        int i = 0, k = 0;
        while (i < some.size() && k < others.size()) {
            Instant from = later(some.get(i).from, others.get(k).from);
            boolean firstEnds = some.get(i).to.isBefore(others.get(k).to);
            Instant to = firstEnds ? some.get(i).to : others.get(k).to;
            if (from.isBefore(to)) {
                common.add(new Span(from, to));
            }
            if (firstEnds) {
                i++;
            } else {
                k++;
            }
        }
        return common;
    }

    private static Instant later(Instant a, Instant b) {
        return a.isAfter(b) ? a : b;
    }
}
