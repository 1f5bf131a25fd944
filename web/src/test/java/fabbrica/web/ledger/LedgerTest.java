package fabbrica.web.ledger;

import static fabbrica.web.Steps.open;
import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;
import static org.hamcrest.Matchers.containsString;
import static org.springframework.test.web.servlet.result.MockMvcResultMatchers.content;
import static org.springframework.test.web.servlet.result.MockMvcResultMatchers.header;

import fabbrica.core.mesh.model.Shapes;
import fabbrica.web.DemoLabTest;
import fabbrica.web.Steps;
import fabbrica.web.floor.Run;
import fabbrica.web.floor.RunEnd.Outcome;
import fabbrica.web.floor.RunFilter;
import fabbrica.web.floor.RunSums;
import fabbrica.web.floor.Runs;
import java.util.ArrayList;
import java.util.List;
import org.junit.jupiter.api.Test;
import org.springframework.beans.factory.annotation.Autowired;
import org.springframework.test.web.servlet.MockMvc;

@DemoLabTest
class LedgerTest {

    @Autowired
    private MockMvc mvc;
    @Autowired
    private Steps steps;
    @Autowired
    private Runs runs;

    @Test
    void three_weeks_of_demo_runs_are_there_with_their_failures() {
        List<Run> runs = this.runs.runs(RunFilter.ALL, null, 1000);
        assertThat(runs).hasSizeGreaterThan(30);
        assertThat(runs).extracting(Run::startedAt).isSortedAccordingTo((a, b) -> b.compareTo(a));
        assertThat(runs).filteredOn(run -> run.state() == Run.State.FAILED && !run.printerId().startsWith("test-"))
            .hasSizeBetween(3, 15);
    }

    @Test
    void the_sum_counts_what_has_ended_and_weighs_time_by_good_runs_only() {
        String printer = steps.printer();
        long spool = steps.spool("pla", 500);
        long first = steps.started(steps.queued(Shapes.box(20, 20, 6), 2, printer, spool));
        steps.end(first, Outcome.FAILED, 4, 1);
        Run good = runs.run(steps.started(runs.again(runs.run(first), "mira")));
        steps.end(good.id(), Outcome.WELL, good.promisedS() / 60 * 1.5, 4);
        steps.started(steps.queued(Shapes.box(20, 20, 6), 1, printer, spool));
        RunSums sum = runs.sums(new RunFilter(printer, null, null, null, ""));
        assertThat(sum.ended()).isEqualTo(2);
        assertThat(sum.failed()).isEqualTo(1);
        assertThat(sum.grams()).isCloseTo(5, within(1e-9));
        assertThat(sum.time().spoken()).isEqualTo("50 % over");
        assertThat(sum.cost()).hasToString("[0.15 EUR]");
        assertThat(runs.sums(new RunFilter(printer, null, null, null, "no such words"))).extracting(RunSums::ended).isEqualTo(0L);
    }

    @Test
    void pages_of_runs_follow_one_another_without_a_gap() {
        List<Run> all = runs.runs(RunFilter.ALL, null, 1000);
        List<Run> paged = new ArrayList<>();
        for (List<Run> page = runs.runs(RunFilter.ALL, null, 7); !page.isEmpty();
                page = runs.runs(RunFilter.ALL, page.getLast().id(), 7)) {
            paged.addAll(page);
        }
        assertThat(paged).isEqualTo(all);
    }

    @Test
    void filters_narrow_the_list_and_the_file_alike() throws Exception {
        String failed = mvc.perform(open("/ledger.csv?outcome=failed&printer=old")).andExpect(header().string(
                "Content-Disposition", containsString("ledger.csv"))).andReturn().getResponse().getContentAsString();
        List<String> lines = failed.lines().toList();
        assertThat(lines.getFirst()).startsWith("run,plate,tickets,model,member,printer,spool,started");
        assertThat(lines).hasSizeGreaterThan(1);
        assertThat(lines.subList(1, lines.size())).allMatch(line -> line.contains("Old faithful,")
                && line.contains(",failed,"));
        mvc.perform(open("/ledger?outcome=failed&printer=old")).andExpect(content().string(
                containsString("/ledger.csv?outcome=failed&amp;printer=old")));
        mvc.perform(open("/ledger?words=nothing-like-this")).andExpect(content().string(
                containsString("No run matches.")));
        mvc.perform(open("/ledger?from=2001-01-01&to=2001-02-01")).andExpect(content().string(
                containsString("No run matches.")));
        mvc.perform(open("/ledger?from=yesterday")).andExpect(content().string(
                containsString("is not a date; all days are shown.")));
    }
}
