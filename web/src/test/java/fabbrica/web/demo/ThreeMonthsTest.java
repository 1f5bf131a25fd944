package fabbrica.web.demo;

import static org.assertj.core.api.Assertions.assertThat;
import static org.hamcrest.Matchers.containsString;
import static org.springframework.test.web.servlet.result.MockMvcResultMatchers.content;

import fabbrica.web.DemoLabTest;
import fabbrica.web.Steps;
import fabbrica.web.floor.Run;
import fabbrica.web.floor.RunFilter;
import fabbrica.web.floor.Runs;
import java.time.Duration;
import java.util.List;
import org.junit.jupiter.api.Test;
import org.springframework.beans.factory.annotation.Autowired;
import org.springframework.test.context.TestPropertySource;
import org.springframework.test.web.servlet.MockMvc;

/** The demo as it is started from a shell, with what happened in the lab before. */
@DemoLabTest
@TestPropertySource(properties = {"fabbrica.demo.weeks=11", "fabbrica.data=target/three-months-lab"})
class ThreeMonthsTest {

    @Autowired
    private MockMvc mvc;
    @Autowired
    private Runs runs;

    @Test
    void it_has_three_months_behind_it_that_are_worth_looking_at() throws Exception {
        List<Run> all = runs.runs(RunFilter.ALL, null, 1000);
        assertThat(Duration.between(all.getLast().startedAt(), all.getFirst().startedAt()).toDays()).isGreaterThanOrEqualTo(90);
        assertThat(all).hasSizeGreaterThan(250);
        assertThat(all.stream().filter(run -> run.state() == Run.State.FAILED).count()).isBetween(all.size() / 20L, all.size() / 5L);
        mvc.perform(Steps.open("/ledger/reliability")).andExpect(content().string(containsString("more failures")))
                .andExpect(content().string(containsString("Oil the rods")));
        mvc.perform(Steps.open("/ledger/use")).andExpect(content().string(containsString("Members of the house")))
                .andExpect(content().string(containsString("Printed by the time a member was told last")));
        mvc.perform(Steps.open("/ledger/board")).andExpect(content().string(containsString("things printed, in")));
    }
}
