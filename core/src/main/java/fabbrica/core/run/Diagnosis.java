package fabbrica.core.run;

import fabbrica.core.recipe.Recipe;
import fabbrica.core.run.Clues.Clue;
import java.util.Arrays;
import java.util.Comparator;
import java.util.EnumMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Optional;

/**
 * Why a print went wrong, by what it shows and all that is known about its run: each cause is weighed by Bayes' rule as if its signs and clues came
 * independently of one another.
 *
 * @param causes the likeliest first
 * @param next   the one thing to change before the next try; empty when all that helps was tried
 */
public record Diagnosis(List<Likely> causes, Optional<Retry> next) {

    /** How likely a cause still is after what helps best against it was tried in vain, and after what else helps (a judgement of ours). */
    private static final double FIRST_IN_VAIN = 0.2;
    private static final double OTHER_IN_VAIN = 0.6;
    /** How far what is not the best remedy against a cause helps, against the best (a judgement of ours). */
    private static final double OTHERS_HELP = 0.4;

    /**
     * @param share   how likely it is, 0 to 1, all causes together being 1
     * @param reasons clauses, what speaks most for it first; may be empty
     */
    public record Likely(Cause cause, double share, List<String> reasons) {
    }

    /**
     * What to try next.
     *
     * @param against the cause that it is to help against
     * @param recipe  with the change in it; where that does not change, the same
     */
    public record Retry(Remedy remedy, Cause against, Recipe recipe) {
    }

    public Diagnosis {
        causes = List.copyOf(causes);
    }

    /** @param signs may be empty: then the circumstances alone tell */
    public static Diagnosis of(List<Sign> signs, Circumstances run) {
        List<Weighed> weighed = Arrays.stream(Cause.values()).map(cause -> Weighed.of(cause, signs, run)).toList();
        double all = weighed.stream().mapToDouble(Weighed::weight).sum();
        List<Likely> causes = weighed.stream().sorted(Comparator.comparingDouble((Weighed each) -> -each.weight()))
                .map(each -> new Likely(each.cause(), each.weight() / all, each.reasons())).toList();
        return new Diagnosis(causes, next(causes, run));
    }

    /** What helps most for what it asks of people: a remedy counts by how likely the causes are that it helps against, less where another is better. */
    private static Optional<Retry> next(List<Likely> causes, Circumstances run) {
        Map<Remedy, Double> helps = new EnumMap<>(Remedy.class);
        Map<Remedy, Cause> against = new EnumMap<>(Remedy.class);
        for (Likely likely : causes) {
            for (Remedy remedy : likely.cause().remedies()) {
                helps.merge(remedy, likely.share() * (remedy == likely.cause().remedies().getFirst() ? 1 : OTHERS_HELP) / remedy.effort(), Double::sum);
                against.putIfAbsent(remedy, likely.cause());
            }
        }
        return helps.entrySet().stream().sorted(Map.Entry.<Remedy, Double>comparingByValue().reversed()).map(Map.Entry::getKey)
                .flatMap(remedy -> retry(remedy, Objects.requireNonNull(against.get(remedy)), run).stream()).findFirst();
    }

    private record Weighed(Cause cause, List<Clue> clues, double weight) {

        static Weighed of(Cause cause, List<Sign> signs, Circumstances run) {
            List<Clue> clues = Clues.of(cause, signs, run);
            double weight = cause.prior() * Math.exp(clues.stream().mapToDouble(Clue::weight).sum());
            for (Sign sign : signs) {
                weight *= cause.shows(sign.defect());
            }
            for (Remedy remedy : cause.remedies()) {
                weight *= !run.tried().contains(remedy) ? 1 : remedy == cause.remedies().getFirst() ? FIRST_IN_VAIN : OTHER_IN_VAIN;
            }
            return new Weighed(cause, clues, weight);
        }

        List<String> reasons() {
            return clues.stream().filter(clue -> clue.weight() > 0).sorted(Comparator.comparingDouble((Clue clue) -> -clue.weight())).map(Clue::reason).toList();
        }
    }

    /** Nothing when it was tried, is in the recipe already, or cannot be done. */
    private static Optional<Retry> retry(Remedy remedy, Cause cause, Circumstances run) {
        if (run.tried().contains(remedy) || run.fixed() && remedy.kind() == Remedy.Kind.RECIPE) {
            return Optional.empty();
        }
        return remedy.kind() != Remedy.Kind.RECIPE ? Optional.of(new Retry(remedy, cause, run.recipe()))
                : remedy.in(run.recipe(), run.printer()).map(recipe -> new Retry(remedy, cause, recipe));
    }
}
