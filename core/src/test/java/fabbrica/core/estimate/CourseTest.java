package fabbrica.core.estimate;

import static org.assertj.core.api.Assertions.assertThat;

import fabbrica.core.estimate.Course.Moment;
import fabbrica.core.estimate.Course.Stretch;
import fabbrica.core.toolpath.Milestones.Milestone;
import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.Test;

/** Worked out by hand: 300 s of warming, 60 s of purging, layers of 100, 50, 50 and 40 s, a change of filament of 60 s, 10 s of parking. */
class CourseTest {

    private static final Map<Phase, Double> PHASES = Map.of(Phase.HEAT_BED, 240.0, Phase.HEAT_NOZZLE, 60.0, Phase.PURGE, 60.0, Phase.OUTER_WALL, 200.0, Phase.TRAVEL, 40.0,
            Phase.CHANGE, 60.0, Phase.END, 10.0);
    private static final List<Double> LAYERS = List.of(100.0, 50.0, 50.0, 40.0);

    @Test
    void what_goes_on_follows_one_another_to_the_last_second() {
        // The layers share the 60 s of the change: 300 s in 240 s of their own, a quarter more each.
        Course course = Course.of(PHASES, LAYERS, List.of());
        assertThat(course.stretches()).containsExactly(new Stretch("warming up", false, 0, 300), new Stretch("levelling and purging", false, 300, 360),
                new Stretch("first layer", true, 360, 485), new Stretch("the other layers", true, 485, 660), new Stretch("parking", false, 660, 670));
        assertThat(course.totalSeconds()).isEqualTo(670);
    }

    @Test
    void what_happens_at_a_layer_happens_when_the_layers_below_are_laid() {
        Course course = Course.of(PHASES, LAYERS, List.of(new Milestone(0, "first layer", ""), new Milestone(2, "supports end", ""), new Milestone(2, "change of filament", ""),
                new Milestone(3, "top", "")));
        assertThat(course.moments()).containsExactly(new Moment("first layer", 360), new Moment("supports end", 547.5), new Moment("change of filament", 547.5),
                new Moment("top", 610));
    }

    @Test
    void without_any_waiting_there_is_nothing_but_layers() {
        Course course = Course.of(Map.of(Phase.OUTER_WALL, 60.0), List.of(60.0), List.of());
        assertThat(course.stretches()).containsExactly(new Stretch("first layer", true, 0, 60));
    }
}
