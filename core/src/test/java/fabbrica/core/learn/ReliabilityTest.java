package fabbrica.core.learn;

import static org.assertj.core.api.Assertions.assertThat;

import fabbrica.core.learn.Reliability.Group;
import java.util.ArrayList;
import java.util.List;
import org.junit.jupiter.api.Test;

class ReliabilityTest {

    private record Tried(String printer, boolean failed) {
    }

    private static List<Tried> runs(String printer, int failed, int all) {
        List<Tried> runs = new ArrayList<>();
        for (int i = 0; i < all; i++) {
            runs.add(new Tried(printer, i < failed));
        }
        return runs;
    }

    private static Reliability of(List<List<Tried>> runs) {
        return Reliability.of(runs.stream().flatMap(List::stream).toList(), Tried::failed, Tried::printer);
    }

    @Test
    void three_runs_are_named_and_not_ranked() {
        Reliability reliability = of(List.of(runs("door", 2, 40), runs("new", 3, 3)));
        assertThat(reliability.compared()).extracting(Group::name).containsExactly("door");
        assertThat(reliability.few()).containsExactly(new Group("new", new Rate(3, 3), 0));
    }

    @Test
    void the_one_that_fails_most_comes_first_and_only_what_is_beyond_chance_is_said_to_differ() {
        Reliability reliability = of(List.of(runs("door", 4, 60), runs("glass", 6, 60), runs("old", 24, 60)));
        assertThat(reliability.compared()).extracting(Group::name).containsExactly("old", "glass", "door");
        assertThat(reliability.compared()).extracting(Group::against).containsExactly(1, 0, -1);
    }

    @Test
    void one_group_alone_is_compared_with_nothing() {
        assertThat(of(List.of(runs("door", 30, 60))).compared()).extracting(Group::against).containsExactly(0);
        assertThat(of(List.of()).compared()).isEmpty();
    }
}
