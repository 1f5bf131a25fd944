package fabbrica.web.ledger;

import static fabbrica.web.Steps.open;
import static org.assertj.core.api.Assertions.assertThat;
import static org.hamcrest.Matchers.containsString;
import static org.springframework.test.web.servlet.result.MockMvcResultMatchers.content;

import fabbrica.core.ledger.Outlay;
import fabbrica.core.mesh.model.Shapes;
import fabbrica.core.recipe.Nozzle;
import fabbrica.core.recipe.Printer;
import fabbrica.web.DemoLabTest;
import fabbrica.web.Steps;
import fabbrica.web.floor.RunEnd.Outcome;
import fabbrica.web.floor.Runs;
import fabbrica.web.plan.Plates;
import fabbrica.web.plan.Upgrades;
import fabbrica.web.plan.Upgrades.Replayed;
import fabbrica.web.platform.Standing;
import fabbrica.web.stores.Inventory;
import fabbrica.web.stores.StockPrinter;
import java.time.Duration;
import java.util.List;
import java.util.Objects;
import java.util.Set;
import org.awaitility.Awaitility;
import org.junit.jupiter.api.Test;
import org.springframework.beans.factory.annotation.Autowired;
import org.springframework.test.web.servlet.MockMvc;

@DemoLabTest
class UpgradePagesTest {

    private static final Duration LIMIT = Duration.ofMinutes(1);

    @Autowired
    private MockMvc mvc;
    @Autowired
    private Steps steps;
    @Autowired
    private Runs runs;
    @Autowired
    private Plates plates;
    @Autowired
    private Upgrades upgrades;
    @Autowired
    private Inventory inventory;

    private long printed(String printer, double wide, int copies) {
        long run = steps.started(steps.queued(Shapes.box(wide, wide, 12), copies, printer, steps.spool("pla", 900)));
        steps.end(run, Outcome.WELL, 20, 4);
        return runs.run(run).plateId();
    }

    private List<Replayed> replayed(List<Long> plates, StockPrinter as) {
        Awaitility.await().atMost(LIMIT).until(() -> !(upgrades.of(plates, as) instanceof Standing.Working));
        return ((Standing.Done<List<Replayed>>) upgrades.of(plates, as)).value();
    }

    @Test
    void on_the_same_machine_nothing_changes_and_a_wider_nozzle_is_quicker() {
        String id = steps.printer();
        StockPrinter same = inventory.printer(id).orElseThrow();
        long plate = printed(id, 40, 1);
        Replayed here = replayed(List.of(plate), same).getFirst();
        Outlay was = Objects.requireNonNull(here.was());
        assertThat(here.would()).isEqualTo(was);
        Replayed wide = replayed(List.of(plate), same.with(same.printer().with(new Nozzle(0.8, false)))).getFirst();
        assertThat(wide.was()).isEqualTo(was);
        assertThat(Objects.requireNonNull(wide.would()).seconds()).isLessThan(0.8 * was.seconds());
    }

    @Test
    void what_does_not_fit_or_is_of_another_material_is_left_out_with_the_reason() {
        String id = steps.printer();
        StockPrinter small = inventory.printer("window").orElseThrow();
        long large = printed(id, small.printer().bed().widthMm() + 20, 1);
        assertThat(replayed(List.of(large), small).getFirst().why()).isEqualTo("it does not fit on the bed");
        StockPrinter other = inventory.printer(id).orElseThrow();
        StockPrinter noPla = other.with(new Printer(id, other.name(), other.printer().bed(), other.printer().nozzle(), other.printer().kinematics(),
                other.printer().preparation(), 1.75, false, 260, 100, Set.of("petg")));
        assertThat(replayed(List.of(large), noPla).getFirst().why()).isEqualTo("PLA is not printed there");
    }

    @Test
    void what_is_no_longer_kept_is_left_out_and_the_others_are_not() {
        String id = steps.printer();
        long gone = printed(id, 41, 1), there = printed(id, 42, 1);
        steps.forgetModel(plates.plate(gone).copies().getFirst().ticketId());
        List<Replayed> replayed = replayed(List.of(gone, there), inventory.printer(id).orElseThrow());
        assertThat(replayed).extracting(Replayed::why).containsExactly("its model is no longer kept", "");
    }

    @Test
    void the_page_says_hours_money_and_when_a_price_is_earned() throws Exception {
        String id = steps.printer();
        printed(id, 40, 2);
        String asked = "printer=%s&runs=5&as=%s&acceleration=9000&price=120".formatted(id, id);
        Awaitility.await().atMost(LIMIT).untilAsserted(() -> mvc.perform(open("/ledger/upgrade/outcome?" + asked)).andExpect(content().string(containsString("It would have saved"))));
        assertPage("/ledger/upgrade?" + asked, "At that rate its price is earned in");
    }

    @Test
    void what_cannot_be_is_said_in_a_sentence() throws Exception {
        assertPage("/ledger/upgrade?as=door&runs=999", "Runs must be between 1 and 200; 999 was given.");
        assertPage("/ledger/upgrade?as=door&bore=9", "Nozzle bore must be between 0.1 and 2 mm; 9 was given.");
        assertPage("/ledger/upgrade?as=nowhere", "Choose a printer of the lab to begin from.");
    }

    private void assertPage(String path, String sentence) throws Exception {
        mvc.perform(open(path)).andExpect(content().string(containsString(sentence)));
    }
}
