package fabbrica.core.learn;

import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;
import java.util.function.Function;
import java.util.function.Predicate;

/**
 * How often runs fail, told apart by something they have. Groups with too few runs are named and not compared.
 *
 * @param compared those with enough runs, the one that fails most often first
 * @param few      the others, by name
 */
public record Reliability(List<Group> compared, List<Group> few) {

    /** @param against 1 when it fails more often than all the others together, beyond chance; -1 when less; 0 when nobody can tell */
    public record Group(String name, Rate rate, int against) {
    }

    public Reliability {
        compared = List.copyOf(compared);
        few = List.copyOf(few);
    }

    /** @param by what tells them apart, for people to read */
    public static <T> Reliability of(List<T> runs, Predicate<T> failed, Function<T, String> by) {
        Map<String, int[]> counts = new TreeMap<>();
        int allFailed = 0;
        for (T run : runs) {
            int[] count = counts.computeIfAbsent(by.apply(run), name -> new int[2]);
            int bad = failed.test(run) ? 1 : 0;
            count[0] += bad;
            count[1]++;
            allFailed += bad;
        }
        int questions = Math.max(1, (int) counts.values().stream().filter(count -> count[1] >= Rate.ENOUGH).count());
        List<Group> compared = new ArrayList<>(), few = new ArrayList<>();
        for (Map.Entry<String, int[]> each : counts.entrySet()) {
            Rate own = new Rate(each.getValue()[0], each.getValue()[1]);
            int others = runs.size() - own.runs();
            if (own.isEnough()) {
                compared.add(new Group(each.getKey(), own, others < Rate.ENOUGH ? 0 : own.against(new Rate(allFailed - own.failed(), others), questions)));
            } else {
                few.add(new Group(each.getKey(), own, 0));
            }
        }
        compared.sort(Comparator.comparingDouble((Group group) -> -group.rate().share()));
        return new Reliability(compared, few);
    }
}
