package fabbrica.web.floor;

import static fabbrica.web.Steps.open;
import static fabbrica.web.Steps.send;
import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.assertj.core.api.Assertions.tuple;
import static org.hamcrest.Matchers.containsString;
import static org.hamcrest.Matchers.not;
import static org.springframework.test.web.servlet.result.MockMvcResultMatchers.content;

import fabbrica.core.mesh.model.Shapes;
import fabbrica.core.recipe.Adhesion;
import fabbrica.core.run.Cause;
import fabbrica.core.run.Defect;
import fabbrica.core.run.Diagnosis;
import fabbrica.core.run.Remedy;
import fabbrica.core.run.Sign;
import fabbrica.web.DemoLabTest;
import fabbrica.web.Steps;
import fabbrica.web.floor.RunEnd.Outcome;
import fabbrica.web.plan.Plates;
import fabbrica.web.platform.Refusal;
import fabbrica.web.platform.Seen;
import java.util.List;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.springframework.beans.factory.annotation.Autowired;
import org.springframework.test.web.servlet.MockMvc;

@DemoLabTest
class DiagnosingTest {

    @Autowired
    private Diagnosing diagnosing;
    @Autowired
    private Runs runs;
    @Autowired
    private Plates plates;
    @Autowired
    private Steps steps;
    @Autowired
    private MockMvc mvc;

    private String printer;
    private long spool;

    @BeforeEach
    void stock() {
        printer = steps.printer();
        spool = steps.spool("pla", 900);
    }

    private Run failed(long plate, Sign... signs) {
        long run = steps.started(plate);
        runs.end(run, new RunEnd(steps.end(run, Outcome.FAILED, 20, 1, "").took(), steps.end(run, Outcome.FAILED, 20, 1, "").copies(), List.of(signs), "", "", null, null), "mira");
        return runs.run(run);
    }

    private Run tower(Sign... signs) {
        return failed(steps.queued(Shapes.box(5, 5, 60), 1, printer, spool), signs);
    }

    private Diagnosis diagnosis(Run run) {
        return diagnosing.of(run, diagnosing.tries(run.id())).diagnosis();
    }

    @Test
    void a_thin_tower_that_came_off_stood_on_too_little_and_a_brim_is_tried_which_is_not_proposed_twice() {
        Run first = tower(new Sign(Defect.CAME_OFF, Defect.CAME_OFF.usualSite(), 31.0));
        assertThat(first.signs()).containsExactly(new Sign(Defect.CAME_OFF, Defect.CAME_OFF.usualSite(), 31.0));
        Diagnosis why = diagnosis(first);
        assertThat(why.causes().getFirst().cause()).isEqualTo(Cause.SMALL_CONTACT);
        assertThat(why.causes().getFirst().reasons()).contains("contact 25 mm² for 60 mm of height");
        assertThat(why.next().orElseThrow().remedy()).isEqualTo(Remedy.BRIM);

        long plate = diagnosing.retry(first, Remedy.BRIM, "mira");
        assertThat(plates.plate(plate).plan().recipe()).isEqualTo(plates.plate(first.plateId()).plan().recipe().with(Adhesion.BRIM));
        assertThat(diagnosing.waiting(first.id())).contains(plate);
        Run second = failed(plate, Sign.of(Defect.CAME_OFF));
        assertThat(diagnosing.tries(first.id())).isEqualTo(diagnosing.tries(second.id())).extracting(tried -> tried.run().id(), Tried::changed)
                .containsExactly(tuple(first.id(), null), tuple(second.id(), Remedy.BRIM));
        assertThat(diagnosis(second).next().orElseThrow().remedy()).isNotEqualTo(Remedy.BRIM);
    }

    @Test
    void what_is_to_be_done_by_hand_stands_first_on_the_checklist_of_the_next_try() throws Exception {
        Run run = failed(steps.queued(Shapes.box(30, 30, 10), 1, printer, spool), Sign.of(Defect.WRONG_COLOUR));
        mvc.perform(open("/floor/runs/%d/diagnosis".formatted(run.id()))).andExpect(content().string(containsString("another spool than planned")))
                .andExpect(content().string(containsString("put in the spool that is planned"))).andExpect(content().string(containsString("Try again with that")));
        String plate = mvc.perform(send("/floor/runs/%d/retry".formatted(run.id())).param("remedy", "RIGHT_SPOOL").param("seen", Seen.of(run))).andReturn().getResponse().getRedirectedUrl();
        mvc.perform(open(plate.replace("/plates/", "/floor/start/"))).andExpect(content().string(containsString("Before this try: put in the spool that is planned.")));
        mvc.perform(open("/floor/runs/%d/diagnosis".formatted(run.id()))).andExpect(content().string(containsString("It waits to be printed again")))
                .andExpect(content().string(not(containsString("Try again with that"))));
    }

    @Test
    void another_change_than_the_one_that_is_proposed_is_refused() {
        Run run = tower(Sign.of(Defect.CAME_OFF));
        assertThatThrownBy(() -> diagnosing.retry(run, Remedy.THINNER_LAYERS, "mira")).isInstanceOf(Refusal.class).hasMessageContaining("something else is proposed");
    }

    @Test
    void another_spool_is_taken_where_the_spool_was_too_short() {
        long little = steps.spool("pla", 300);
        Run run = failed(steps.queued(Shapes.box(20, 20, 6), 1, printer, little), Sign.of(Defect.RAN_OUT));
        assertThat(diagnosis(run).next().orElseThrow().remedy()).isEqualTo(Remedy.OTHER_SPOOL);
        long plate = diagnosing.retry(run, Remedy.OTHER_SPOOL, "mira");
        assertThat(plates.plate(plate).plan().spoolId()).isNotNull().isNotEqualTo(little);
    }

    @Test
    void where_there_is_no_other_spool_none_is_offered() {
        Run run = failed(steps.queued(Shapes.box(20, 20, 6), 1, printer, steps.spool("pla", 300)), Sign.of(Defect.RAN_OUT));
        Diagnosing.Thought thought = diagnosing.of(run, diagnosing.tries(run.id()));
        assertThat(thought.takesOther()).isTrue();
        assertThat(thought.lacksOther()).isFalse();
        Diagnosing.Thought empty = new Diagnosing.Thought(run, thought.diagnosis(), null, thought.ticket(), false);
        assertThat(empty.takesOther()).isFalse();
        assertThat(empty.lacksOther()).isTrue();
    }

    @Test
    void without_its_model_the_shape_tells_nothing_and_the_rest_still_does() throws Exception {
        Run run = failed(steps.queued(Shapes.box(5, 5, 61), 1, printer, spool), Sign.of(Defect.CAME_OFF));
        String file = steps.forgetModel(plates.plate(run.plateId()).copies().getFirst().ticketId());
        assertThat(plates.plate(run.plateId()).copies().getFirst().copy().part().sha256()).isEqualTo(file);
        mvc.perform(open("/floor/runs/%d/diagnosis".formatted(run.id()))).andExpect(content().string(containsString("Likely cause")))
                .andExpect(content().string(not(containsString("contact 25 mm²"))));
    }

    @Test
    void a_run_that_went_well_has_nothing_to_be_explained() throws Exception {
        long run = steps.started(steps.queued(Shapes.box(20, 20, 6), 1, printer, spool));
        steps.end(run, Outcome.WELL, 20, 1);
        mvc.perform(open("/floor/runs/%d/diagnosis".formatted(run))).andExpect(content().string(not(containsString("Likely cause"))));
    }
}
