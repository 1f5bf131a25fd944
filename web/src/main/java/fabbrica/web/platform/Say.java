package fabbrica.web.platform;

import fabbrica.core.inspect.Finding;
import fabbrica.core.inspect.Findings;
import fabbrica.core.inspect.Inspection;
import fabbrica.core.inspect.PrintLimits;
import fabbrica.core.inspect.Severity;
import fabbrica.core.judge.Verdict;
import fabbrica.core.recipe.Material;
import fabbrica.core.units.Spoken;
import java.util.ArrayList;
import java.util.Collection;
import java.util.List;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Component;

/** Quantities and states in the words and marks of the pages; used in templates as {@code @say}. */
@Component("say")
public class Say {

    private static final int SAID_AT_ONCE = 2;

    public String duration(double seconds) {
        return Spoken.duration(seconds);
    }

    public String minutes(double minutes) {
        return Spoken.duration(minutes * 60);
    }

    public String grams(double grams) {
        return Spoken.grams(grams);
    }

    /** Of much plastic. */
    public String weight(double grams) {
        return Spoken.weight(grams);
    }

    /** How long people wait. */
    public String days(double seconds) {
        return Spoken.days(seconds);
    }

    public String volume(double cubicMillimetres) {
        return Spoken.volume(cubicMillimetres);
    }

    public String metres(double millimetres) {
        return Spoken.metres(millimetres);
    }

    public String number(double value) {
        return Spoken.number(value, 2);
    }

    public String whole(double value) {
        return Spoken.number(value, 0);
    }

    /** A length in millimetres; "none" where there is nothing to measure. */
    public String length(double millimetres) {
        return Double.isInfinite(millimetres) ? "none" : Spoken.number(millimetres, 2) + " mm";
    }

    /** What was found on a part by the usual limits in a word or two each, worst first, with its mark. */
    public String codes(Inspection inspection) {
        List<Finding> findings = Findings.of(inspection, PrintLimits.USUAL);
        return findings.isEmpty() ? "● nothing to report" : findings.stream()
                .map(f -> severity(f.severity()).substring(0, 1) + " " + f.code().plain()).collect(Collectors.joining(", "));
    }

    /** The worst of what was found in a few words each: "thin walls, something hangs over air and 2 more"; empty for nothing. */
    public String findings(List<Finding> findings) {
        List<String> worst = findings.stream().filter(finding -> finding.severity() == findings.getFirst().severity()).map(finding -> finding.code().plain())
                .distinct().toList();
        String first = worst.stream().limit(SAID_AT_ONCE).collect(Collectors.joining(", "));
        return worst.size() <= SAID_AT_ONCE ? first : "%s and %d more".formatted(first, worst.size() - SAID_AT_ONCE);
    }

    public String count(long value) {
        return Spoken.count(value);
    }

    /** A fraction as per cent. */
    public String percent(double fraction) {
        return Spoken.percent(fraction);
    }

    public String size(double x, double y, double z) {
        return Spoken.size(x, y, z);
    }

    public String inches(double x, double y, double z) {
        return Spoken.inches(x, y, z);
    }

    public String bytes(long bytes) {
        return bytes < 1 << 20 ? Spoken.number(bytes / 1024.0, 0) + " kB" : bytes < 1 << 30
                ? Spoken.number(bytes / 1048576.0, 1) + " MB" : Spoken.number(bytes / 1073741824.0, 1) + " GB";
    }

    public String severity(Severity severity) {
        return switch (severity) {
            case BLOCK -> "■ stops";
            case CARE -> "◆ care";
            case NOTE -> "● note";
        };
    }

    public String severityClass(Severity severity) {
        return switch (severity) {
            case BLOCK -> "stops";
            case CARE -> "care";
            case NOTE -> "goes";
        };
    }

    public String verdict(Verdict.State state) {
        return switch (state) {
            case GOES -> "● Prints";
            case WITH_CARE -> "◆ Prints with care";
            default -> "■ Does not print as it is";
        };
    }

    /** Whether a file that was sliced elsewhere may run, to be followed by the printer's name. */
    public String runs(Verdict.State state) {
        return switch (state) {
            case GOES -> "● For";
            case WITH_CARE -> "◆ With care on";
            case STOPS -> "■ Not for";
        };
    }

    public String verdictClass(Verdict.State state) {
        return switch (state) {
            case GOES -> "goes";
            case WITH_CARE -> "care";
            default -> "stops";
        };
    }

    /** @param state of a run, by its stored name */
    public String run(Enum<?> state) {
        return switch (state.name()) {
            case "DONE" -> "● came out well";
            case "FAILED" -> "■ failed";
            default -> "◆ printing";
        };
    }

    public String runClass(Enum<?> state) {
        return switch (state.name()) {
            case "DONE" -> "goes";
            case "FAILED" -> "stops";
            default -> "care";
        };
    }

    /** By what a promise is made. */
    public String taught(int runs) {
        return switch (runs) {
            case 0 -> "no run of this printer has taught it yet";
            case 1 -> "learned from one run of this printer";
            default -> "learned from %d runs of this printer".formatted(runs);
        };
    }

    /** What is done, else null. */
    public <V> @Nullable V done(Standing<V> standing) {
        return standing instanceof Standing.Done<V>(V value) ? value : null;
    }

    /** The work when it goes on, else null. */
    public <V> Standing.@Nullable Working<V> working(Standing<V> standing) {
        return standing instanceof Standing.Working<V> working ? working : null;
    }

    public String material(Collection<Material> materials, String id) {
        return materials.stream().filter(m -> m.id().equals(id)).map(Material::name).findFirst().orElse(id);
    }

    public String materials(Collection<Material> materials, Collection<String> ids) {
        return materials.stream().filter(m -> ids.contains(m.id())).map(Material::name)
                .collect(Collectors.joining(", "));
    }

    public String needs(Material material) {
        List<String> needs = new ArrayList<>();
        if (material.abrasive()) {
            needs.add("hardened nozzle");
        }
        if (material.enclosed()) {
            needs.add("enclosure, ventilation");
        }
        return String.join(", ", needs);
    }
}
