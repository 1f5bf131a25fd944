package fabbrica.web.machine;

import static fabbrica.web.Steps.open;
import static fabbrica.web.Steps.send;
import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.tuple;
import static org.hamcrest.Matchers.allOf;
import static org.hamcrest.Matchers.containsString;
import static org.hamcrest.Matchers.not;
import static org.springframework.security.test.web.servlet.request.SecurityMockMvcRequestPostProcessors.csrf;
import static org.springframework.security.test.web.servlet.request.SecurityMockMvcRequestPostProcessors.user;
import static org.springframework.test.web.servlet.request.MockMvcRequestBuilders.post;
import static org.springframework.test.web.servlet.result.MockMvcResultMatchers.content;
import static org.springframework.test.web.servlet.result.MockMvcResultMatchers.flash;
import static org.springframework.test.web.servlet.result.MockMvcResultMatchers.redirectedUrl;
import static org.springframework.test.web.servlet.result.MockMvcResultMatchers.status;

import fabbrica.core.run.MachineState.Kind;
import fabbrica.web.DemoLabTest;
import fabbrica.web.Steps;
import fabbrica.web.account.Role;
import fabbrica.web.platform.events.Event;
import fabbrica.web.platform.events.Events;
import fabbrica.web.platform.events.Fact;
import fabbrica.web.stores.Inventory;
import java.nio.file.Path;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.springframework.beans.factory.annotation.Autowired;
import org.springframework.test.web.servlet.MockMvc;

@DemoLabTest
class MachinePagesTest {

    @Autowired
    private MockMvc mvc;
    @Autowired
    private Machines machines;
    @Autowired
    private Inventory inventory;
    @Autowired
    private Events events;
    @Autowired
    private Steps steps;
    @TempDir
    private Path card;

    private String printer;
    private SimulatedMachine machine;

    @BeforeEach
    void connect() throws Exception {
        printer = steps.printer();
        machine = new SimulatedMachine(inventory.printer(printer).orElseThrow().printer(), card);
        MachineAddress address = machine.address();
        mvc.perform(send("/stores/printers/" + printer + "/machine").param("host", address.host()).param("port", Integer.toString(address.port()))
                .param("camera", Integer.toString(address.cameraPort()))).andExpect(redirectedUrl("/stores/printers/" + printer + "/machine"));
        Until.true_("it answers", () -> kind() == Kind.IDLE);
    }

    @AfterEach
    void disconnect() throws Exception {
        machine.close();
        mvc.perform(send("/stores/printers/" + printer + "/machine/remove")).andExpect(redirectedUrl("/stores/printers/" + printer + "/machine"));
        assertThat(machines.address(printer)).isEmpty();
    }

    private Kind kind() {
        return machines.of(printer).orElseThrow().kind();
    }

    @Test
    void whoever_answers_first_is_named_and_what_makes_no_address_is_refused_with_a_sentence() throws Exception {
        mvc.perform(open("/stores/printers/" + printer + "/machine")).andExpect(content().string(allOf(containsString("It calls itself <strong>Test bench</strong>"),
                containsString("uuid-of-" + printer))));
        mvc.perform(send("/stores/printers/" + printer + "/machine").param("host", "bench").param("port", "70000"))
                .andExpect(content().string(containsString("Port must be between 1 and 65535")));
        mvc.perform(send("/stores/printers/" + printer + "/machine").param("host", " ").param("port", "7000")).andExpect(content().string(containsString("Host")));
        assertThat(machines.address(printer).orElseThrow().port()).isEqualTo(machine.address().port());
    }

    @Test
    void an_emergency_stop_is_one_press_for_helpers_too_says_what_it_did_and_that_the_switch_comes_first() throws Exception {
        mvc.perform(post("/machines/" + printer).param("order", "STOP").with(user("tomas").roles("HELPER")).with(csrf())).andExpect(redirectedUrl("/floor"))
                .andExpect(flash().attribute("told", allOf(containsString("heaters and motors off"), containsString("Its own switch comes first"))));
        Until.true_("it has stopped", () -> kind() == Kind.FAULT);
        mvc.perform(open("/handbook")).andExpect(content().string(allOf(containsString("has stopped everything"), containsString("can start a fire"))));
        mvc.perform(open("/handbook", "june", Role.MEMBER)).andExpect(content().string(not(containsString("has stopped everything"))));
        assertThat(events.ofPrinter(printer, 5)).extracting(Event::fact, Event::by).contains(tuple(new Fact.StopPressed(), "tomas"));
        mvc.perform(send("/machines/" + printer).param("order", "RESTART")).andExpect(redirectedUrl("/floor"));
        Until.true_("it is ready again", () -> kind() == Kind.IDLE);
    }

    @Test
    void a_stop_that_cannot_be_passed_on_says_so() throws Exception {
        machine.close();
        Until.true_("it is gone", () -> kind() == Kind.OUT_OF_REACH);
        mvc.perform(send("/machines/" + printer).param("order", "STOP")).andExpect(status().isUnprocessableContent())
                .andExpect(content().string(containsString("Use its own switch.")));
    }

    @Test
    void what_its_camera_sees_is_passed_on_and_where_there_is_none_nothing_is() throws Exception {
        byte[] picture = mvc.perform(open("/machines/" + printer + "/picture")).andExpect(status().isOk()).andReturn().getResponse().getContentAsByteArray();
        assertThat(picture).startsWith((byte) 0x89, (byte) 'P', (byte) 'N', (byte) 'G');
        mvc.perform(open("/machines/door/picture")).andExpect(status().isNotFound());
    }

    @Test
    void all_machines_come_in_one_answer_each_for_its_own_place() throws Exception {
        mvc.perform(open("/machines")).andExpect(content().string(allOf(containsString("id=\"machine-" + printer + "\""), containsString("hx-swap-oob=\"true\""),
                containsString("○ idle"))));
    }
}
