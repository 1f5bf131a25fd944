package fabbrica.web.floor;

import static fabbrica.web.Steps.open;
import static org.assertj.core.api.Assertions.assertThat;
import static org.hamcrest.Matchers.containsString;
import static org.springframework.test.web.servlet.result.MockMvcResultMatchers.content;

import fabbrica.core.mesh.model.Shapes;
import fabbrica.core.run.Defect;
import fabbrica.core.run.Sign;
import fabbrica.web.DemoLabTest;
import fabbrica.web.Files3d;
import fabbrica.web.Steps;
import fabbrica.web.floor.RunEnd.Outcome;
import fabbrica.web.plan.Plates;
import fabbrica.web.ticket.Purpose;
import fabbrica.web.ticket.Ticket;
import fabbrica.web.ticket.Tickets;
import java.util.List;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.springframework.beans.factory.annotation.Autowired;
import org.springframework.test.web.servlet.MockMvc;

@DemoLabTest
class LastTimeTest {

    private static final byte[] RAIL = Files3d.stl(Shapes.box(97, 13, 31));

    @Autowired
    private LastTime lastTime;
    @Autowired
    private Runs runs;
    @Autowired
    private Plates plates;
    @Autowired
    private Tickets tickets;
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

    private long failed(byte[] model) {
        long run = steps.started(steps.queue(from("", model), printer, spool));
        RunEnd end = steps.end(run, Outcome.FAILED, 20, 1, "no brim");
        runs.end(run, new RunEnd(end.took(), end.copies(), List.of(Sign.of(Defect.LIFTED)), "no brim", "", null, null), "mira");
        return run;
    }

    @Test
    void before_a_start_it_is_told_how_the_same_file_went_and_what_prints_alike() throws Exception {
        long same = failed(RAIL), alike = failed(Files3d.stl(Shapes.box(102, 12, 30)));
        failed(Files3d.stl(Shapes.box(13, 97, 8)));
        long plate = steps.queue(from("", RAIL), printer, spool);
        LastTime.Before before = lastTime.of(plates.plate(plate));
        assertThat(before.same()).extracting(Run::id).containsExactly(same);
        assertThat(before.alike()).extracting(Run::id).containsExactly(alike);
        mvc.perform(open("/floor/start/%d/before".formatted(plate))).andExpect(content().string(containsString("The same file")))
                .andExpect(content().string(containsString("A corner lifted"))).andExpect(content().string(containsString("Something that prints alike")));
    }

    @Test
    void runs_of_models_from_the_same_source_are_counted() {
        for (int i = 0; i < 2; i++) {
            long run = steps.started(steps.queue(from("Quarry Lane library", Files3d.stl(Shapes.box(20 + i, 20, 5))), printer, spool));
            steps.end(run, i == 0 ? Outcome.FAILED : Outcome.WELL, 20, 1);
        }
        long plate = steps.queue(from("quarry lane library ", Files3d.stl(Shapes.box(40, 20, 5))), printer, spool);
        assertThat(lastTime.of(plates.plate(plate)).sources()).singleElement().satisfies(of -> {
            assertThat(of.runs()).isEqualTo(2);
            assertThat(of.failed()).isOne();
        });
    }

    private long from(String source, byte[] model) {
        long id = steps.taken(model);
        tickets.accept(tickets.ticket(id), new Ticket.Request(null, Purpose.EVERYDAY, null, "", "", 1, source, ""), "mira");
        return id;
    }

    @Test
    void of_what_was_never_printed_nothing_is_told() {
        assertThat(lastTime.of(plates.plate(steps.queued(Shapes.box(3, 199, 2), 1, printer, spool))).isEmpty()).isTrue();
    }
}
