package fabbrica.web.learn;

import static fabbrica.web.Steps.open;
import static org.assertj.core.api.Assertions.assertThat;
import static org.hamcrest.Matchers.containsString;
import static org.springframework.test.web.servlet.result.MockMvcResultMatchers.content;
import static org.springframework.test.web.servlet.result.MockMvcResultMatchers.status;

import fabbrica.core.mesh.model.Shapes;
import fabbrica.core.schedule.Task;
import fabbrica.web.DemoLabTest;
import fabbrica.web.Steps;
import fabbrica.web.floor.RunEnd.Outcome;
import fabbrica.web.stores.Maintenance;
import fabbrica.web.stores.Routine;
import java.time.Duration;
import java.time.Instant;
import org.junit.jupiter.api.Test;
import org.springframework.beans.factory.annotation.Autowired;
import org.springframework.test.web.servlet.MockMvc;

@DemoLabTest
class ReliabilitiesTest {

    @Autowired
    private Reliabilities reliabilities;
    @Autowired
    private Maintenance maintenance;
    @Autowired
    private Steps steps;
    @Autowired
    private MockMvc mvc;

    @Test
    void a_printer_that_begins_to_fail_is_seen_with_what_was_done_on_it() {
        Instant before = Instant.now().minus(Duration.ofDays(1));
        String printer = steps.printer();
        long spool = steps.spool("pla", 900);
        maintenance.add(printer, new Routine("Change the nozzle", 100.0, null, Duration.ofMinutes(15), Task.CHANGE_NOZZLE), "mira");
        for (int run = 0; run < 3; run++) {
            run(printer, spool, Outcome.FAILED);
        }
        for (int run = 0; run < 26; run++) {
            run(printer, spool, Outcome.WELL);
        }
        maintenance.due(printer).forEach(due -> maintenance.done(due.task().id(), "mira"));
        for (int run = 0; run < 12; run++) {
            run(printer, spool, Outcome.FAILED);
        }
        Reliabilities.Watched watched = reliabilities.since(before).watched().stream().filter(each -> each.runs() == 41).findFirst().orElseThrow();
        assertThat(watched.moves()).isNotEmpty().last().satisfies(moved -> {
            assertThat(moved.move().worse()).isTrue();
            assertThat(moved.move().since()).isEqualTo(29);
            assertThat(moved.care()).extracting(RunFactRepository.Care::what).contains("Change the nozzle");
        });
    }

    private void run(String printer, long spool, Outcome outcome) {
        steps.end(steps.started(steps.queued(Shapes.box(20, 20, 4), 1, printer, spool)), outcome, 20, 1);
    }

    @Test
    void the_page_tells_by_what_runs_are_told_apart() throws Exception {
        mvc.perform(open("/ledger/reliability?back=always")).andExpect(status().isOk()).andExpect(content().string(containsString("Age of the nozzle")))
                .andExpect(content().string(containsString("Hour it was started"))).andExpect(content().string(containsString("Source of the model")));
    }
}
