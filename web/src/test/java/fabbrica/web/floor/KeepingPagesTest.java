package fabbrica.web.floor;

import static fabbrica.web.Steps.open;
import static fabbrica.web.Steps.send;
import static org.assertj.core.api.Assertions.assertThat;
import static org.hamcrest.Matchers.allOf;
import static org.hamcrest.Matchers.containsString;
import static org.hamcrest.Matchers.matchesPattern;
import static org.hamcrest.Matchers.not;
import static org.springframework.test.web.servlet.result.MockMvcResultMatchers.content;
import static org.springframework.test.web.servlet.result.MockMvcResultMatchers.redirectedUrl;
import static org.springframework.test.web.servlet.result.MockMvcResultMatchers.status;

import fabbrica.core.mesh.model.Shapes;
import fabbrica.core.schedule.Schedule.Slot;
import fabbrica.web.DemoLabTest;
import fabbrica.web.Steps;
import fabbrica.web.plan.FirstPrints;
import fabbrica.web.plan.Forecasts;
import fabbrica.web.plan.Plates;
import fabbrica.web.platform.Seen;
import fabbrica.web.platform.events.Event;
import fabbrica.web.platform.events.Events;
import fabbrica.web.stores.Condition;
import fabbrica.web.stores.Inventory;
import fabbrica.web.stores.Maintenance;
import fabbrica.web.stores.Routine;
import fabbrica.web.stores.StockPrinter;
import java.time.Duration;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.springframework.beans.factory.annotation.Autowired;
import org.springframework.test.web.servlet.MockMvc;

/** What is owed to printers stands in the plan, and those that are new, moved or repaired are checked before they print for members. */
@DemoLabTest
class KeepingPagesTest {

    @Autowired
    private MockMvc mvc;
    @Autowired
    private Steps steps;
    @Autowired
    private Inventory inventory;
    @Autowired
    private Maintenance maintenance;
    @Autowired
    private Forecasts forecasts;
    @Autowired
    private FirstPrints firstPrints;
    @Autowired
    private Plates plates;
    @Autowired
    private Events events;

    private String printer;
    private long plate;

    @BeforeEach
    void queue() {
        printer = steps.printer();
        plate = steps.queued(Shapes.box(20, 10, 5), 1, printer, steps.spool("pla", 500));
    }

    private StockPrinter stock() {
        return inventory.printer(printer).orElseThrow();
    }

    private Slot slot() {
        return forecasts.floor().of(plates.plate(plate)).orElseThrow();
    }

    private void check(double minutes, String x, String expectedUrlOrText) throws Exception {
        var answer = mvc.perform(send(address()).param("seen", Seen.of(stock())).param("minutes", Double.toString(minutes)).param("x", x).param("y", "10").param("z", "10")
                .param("sound", "on"));
        answer.andExpect(expectedUrlOrText.startsWith("/") ? redirectedUrl(expectedUrlOrText) : content().string(containsString(expectedUrlOrText)));
    }

    private String address() {
        return "/floor/printers/" + printer + "/first-print";
    }

    @Test
    void what_is_done_before_each_print_takes_its_time_in_the_plan_and_is_said_on_the_round() throws Exception {
        Duration before = Duration.between(slot().work(), slot().start());
        mvc.perform(send("/stores/printers/" + printer + "/maintenance").param("usual", Routine.USUAL.get(1).what())).andExpect(status().isFound());
        assertThat(Duration.between(slot().work(), slot().start())).isEqualTo(before.plusMinutes(2));
        assertThat(slot().chores()).containsExactly("Wipe the plate with alcohol");
        mvc.perform(open("/now")).andExpect(content().string(containsString("Before it: wipe the plate with alcohol.")));
        assertThat(maintenance.due(printer).getFirst().when()).isEqualTo("before each print");
    }

    @Test
    void an_own_routine_says_what_it_takes_and_who_may_do_it() throws Exception {
        mvc.perform(send("/stores/printers/" + printer + "/maintenance").param("what", "Empty the tray").param("beforeEach", "on").param("takesMin", "4").param("plate", "on"))
                .andExpect(status().isFound());
        assertThat(slot().chores()).containsExactly("Empty the tray");
        mvc.perform(send("/stores/printers/" + printer + "/maintenance").param("what", "Sing to it").param("everyDays", "1").param("takesMin", "900"))
                .andExpect(status().isUnprocessableContent());
    }

    @Test
    void a_printer_that_is_moved_prints_for_nobody_until_its_first_print_is_checked() throws Exception {
        StockPrinter placed = stock().at("by the door", false);
        inventory.change(stock(), placed, "mira");
        assertThat(stock().outOfOrder()).isFalse();
        inventory.change(stock(), placed.at("by the window", false), "mira");
        assertThat(stock().condition()).isEqualTo(Condition.unproved("it was moved"));
        assertThat(forecasts.floor().of(plates.plate(plate))).isEmpty();
        mvc.perform(open("/now")).andExpect(content().string(containsString("Check the first print of Test bench: it was moved")));
        mvc.perform(open(address())).andExpect(content().string(allOf(containsString("10 mm a side, of PLA"), containsString("waiting for the check of its first print"))));
        mvc.perform(open(address() + "/gcode")).andExpect(content().string(allOf(containsString("First print of Test bench"), containsString("G1"))));
        double minutes = firstPrints.estimate(stock(), inventory.material("pla").orElseThrow()).totalSeconds() / 60;
        check(minutes, "10.6", "10.6 mm along x");
        assertThat(stock().condition().unproved()).isTrue();
        check(minutes, "100", "Its width");
        check(minutes, "10.1", "/floor");
        assertThat(stock().condition()).isEqualTo(Condition.READY);
        assertThat(forecasts.floor().of(plates.plate(plate))).isPresent();
        assertThat(events.ofPrinter(printer, 20)).extracting(Event::what).anyMatch(what -> what.contains("one thing off")).anyMatch(what -> what.endsWith("true"))
                .contains("first print of Test bench to be checked");
    }

    @Test
    void one_that_was_repaired_may_ask_for_a_check_and_one_that_needs_none_says_why() throws Exception {
        inventory.change(stock(), stock().with(Condition.down("belt torn", null)), "mira");
        mvc.perform(send(address() + "/trusted").param("seen", Seen.of(stock())).param("why", "in a hurry"))
                .andExpect(content().string(containsString("does not wait for a check: it is out of order: belt torn.")));
        check(firstPrints.estimate(stock(), inventory.material("pla").orElseThrow()).totalSeconds() / 60, "10", "/floor");
        assertThat(stock().condition().state()).as("a true cube mends no belt").isEqualTo(Condition.State.DOWN);
        mvc.perform(send("/floor/printers/" + printer).param("seen", Seen.of(stock())).param("unproved", "on")).andExpect(redirectedUrl(address()));
        assertThat(stock().condition()).isEqualTo(Condition.unproved("it was repaired"));
        mvc.perform(open("/floor/printers/" + printer)).andExpect(content().string(allOf(containsString("Check its first print"), not(containsString("In order again")))));
        mvc.perform(send(address() + "/trusted").param("seen", Seen.of(stock())).param("why", "")).andExpect(content().string(containsString("role=\"alert\"")));
        mvc.perform(send(address() + "/trusted").param("seen", Seen.of(stock())).param("why", "only the fan was changed")).andExpect(redirectedUrl("/floor"));
        assertThat(stock().condition()).isEqualTo(Condition.READY);
        assertThat(events.ofPrinter(printer, 20)).extracting(Event::why).contains("only the fan was changed");
    }

    @Test
    void a_new_printer_asks_for_its_check_unless_somebody_says_otherwise() throws Exception {
        mvc.perform(open("/stores/printers/new")).andExpect(content().string(matchesPattern("(?s).*name=\"unproved\" checked.*")));
    }
}
