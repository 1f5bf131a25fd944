package fabbrica.core.judge;

import fabbrica.core.bed.BedFit;
import fabbrica.core.bed.FitFindings;
import fabbrica.core.inspect.Finding;
import fabbrica.core.inspect.Findings;
import fabbrica.core.inspect.Inspection;
import fabbrica.core.inspect.PrintLimits;
import fabbrica.core.inspect.Severity;
import java.util.ArrayList;
import java.util.Collection;
import java.util.Comparator;
import java.util.List;

/**
 * Whether a part can be printed, from everything that was measured.
 *
 * @param findings worst first
 */
public record Verdict(State state, List<Finding> findings) {

    /** The three marks. */
    public enum State {
        GOES, WITH_CARE, STOPS;

        public boolean stops() {
            return this == STOPS;
        }
    }

    public Verdict {
        findings = List.copyOf(findings);
    }

    /**
     * @param limits of the machine in mind
     * @param fits   how the part lies on each printer of the lab
     */
    public static Verdict of(Inspection inspection, PrintLimits limits, Collection<BedFit> fits) {
        List<Finding> findings = new ArrayList<>(Findings.of(inspection, limits));
        FitFindings.of(fits).ifPresent(findings::add);
        return of(findings);
    }

    /** From what was found, in any order. */
    public static Verdict of(List<Finding> found) {
        List<Finding> findings = found.stream().sorted(Comparator.comparing(Finding::severity)).toList();
        State state = findings.isEmpty() ? State.GOES : switch (findings.getFirst().severity()) {
            case BLOCK -> State.STOPS;
            case CARE -> State.WITH_CARE;
            case NOTE -> State.GOES;
        };
        return new Verdict(state, findings);
    }

    public boolean has(Severity severity) {
        return findings.stream().anyMatch(finding -> finding.severity() == severity);
    }
}
