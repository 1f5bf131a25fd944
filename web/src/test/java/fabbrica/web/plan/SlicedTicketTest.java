package fabbrica.web.plan;

import static fabbrica.web.Steps.open;
import static fabbrica.web.Steps.send;
import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.assertj.core.api.Assertions.within;
import static org.hamcrest.Matchers.allOf;
import static org.hamcrest.Matchers.containsString;
import static org.hamcrest.Matchers.not;
import static org.springframework.security.test.web.servlet.request.SecurityMockMvcRequestPostProcessors.csrf;
import static org.springframework.security.test.web.servlet.request.SecurityMockMvcRequestPostProcessors.user;
import static org.springframework.test.web.servlet.request.MockMvcRequestBuilders.multipart;
import static org.springframework.test.web.servlet.result.MockMvcResultMatchers.content;
import static org.springframework.test.web.servlet.result.MockMvcResultMatchers.jsonPath;
import static org.springframework.test.web.servlet.result.MockMvcResultMatchers.status;

import fabbrica.core.gcode.GcodeFile;
import fabbrica.core.mesh.model.Rotation;
import fabbrica.core.mesh.model.Shapes;
import fabbrica.core.motion.Motion;
import fabbrica.core.recipe.BuiltIn;
import fabbrica.core.recipe.Material;
import fabbrica.core.recipe.Plate.Sequence;
import fabbrica.core.recipe.Printer;
import fabbrica.core.recipe.Recipe;
import fabbrica.core.recipe.StartingPoint;
import fabbrica.core.toolpath.Toolpath;
import fabbrica.core.units.LengthUnit;
import fabbrica.core.units.Progress;
import fabbrica.web.DemoLabTest;
import fabbrica.web.Steps;
import fabbrica.web.account.Members;
import fabbrica.web.platform.Refusal;
import fabbrica.web.platform.Seen;
import fabbrica.web.stores.Inventory;
import fabbrica.web.ticket.Acceptance;
import fabbrica.web.ticket.Purpose;
import fabbrica.web.ticket.Ticket;
import fabbrica.web.ticket.Ticket.Request;
import fabbrica.web.ticket.TicketState;
import fabbrica.web.ticket.Tickets;
import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.util.List;
import java.util.Objects;
import java.util.UUID;
import org.junit.jupiter.api.Test;
import org.springframework.beans.factory.annotation.Autowired;
import org.springframework.mock.web.MockMultipartFile;
import org.springframework.test.web.servlet.MockMvc;
import org.springframework.util.MultiValueMap;

/** A file that came sliced, from the counter to the printer. */
@DemoLabTest
class SlicedTicketTest {

    @Autowired
    private MockMvc mvc;
    @Autowired
    private Tickets tickets;
    @Autowired
    private Acceptance acceptance;
    @Autowired
    private Members members;
    @Autowired
    private Plates plates;
    @Autowired
    private Planning planning;
    @Autowired
    private Plans plans;
    @Autowired
    private Inventory inventory;
    @Autowired
    private Steps steps;

    @Test
    void brought_without_a_ticket_it_becomes_one_with_what_it_does_on_each_printer() throws Exception {
        long id = brought("C:\\prints\\stick.gcode", sliced("door", BuiltIn.PLA, 50, 50));
        assertThat(tickets.ticket(id).model().name()).isEqualTo("stick.gcode");
        page(id, "G-code", "20 × 20 × 3.04 mm", "● For Door bench", "byte for byte", "watch its first layer", "It is printed as its file says.");
        mvc.perform(open("/tickets/" + id)).andExpect(content().string(not(containsString("Which way up?"))));
        long elsewhere = brought("far.gcode", sliced("large", BuiltIn.PETG, 300, 300));
        page(elsewhere, "■ Not for Door bench", "the file was made for another printer");
        mvc.perform(multipart("/counter").file(new MockMultipartFile("file", "still.gcode", null, "G28\nG1 X10 F3000\n".getBytes(StandardCharsets.US_ASCII)))
                .param("token", UUID.randomUUID().toString()).with(user("mira").roles("COORDINATOR")).with(csrf()))
                .andExpect(content().string(containsString("The file lays no line of plastic")));
    }

    @Test
    void accepted_and_queued_its_own_bytes_are_what_is_printed_one_copy_a_plate() throws Exception {
        byte[] file = sliced("door", BuiltIn.PLA, 60, 70);
        long id = accepted(brought("two.gcode", file), 2);
        Ticket ticket = tickets.ticket(id);
        PlanEntry entry = planning.proposed(ticket).with(planning.proposed(ticket).recipe(), "door").from(steps.spool("pla", 900));
        List<Long> made = plates.queue(ticket, plans.keep(entry), "mira");
        assertThat(made).hasSize(2);
        assertThat(tickets.ticket(id).state()).isEqualTo(TicketState.QUEUED);
        LaidPlate plate = plates.plate(made.getFirst());
        assertThat(plate.copies()).singleElement().satisfies(copy -> {
            assertThat(copy.copy().place().xMm()).isCloseTo(70, within(0.2));
            assertThat(copy.copy().place().yMm()).isCloseTo(80, within(0.2));
        });
        mvc.perform(open("/plates/%d/gcode".formatted(plate.id()))).andExpect(content().bytes(file));
        mvc.perform(open("/tickets/%d/plans/%d/gcode".formatted(id, plate.plan().id()))).andExpect(content().bytes(file));
        mvc.perform(open("/plates/%d/layers".formatted(plate.id()))).andExpect(content().string(containsString("15 layers for Door bench")));
        mvc.perform(open("/plates/%d/layers/outline".formatted(plate.id()))).andExpect(jsonPath("$.tops.length()").value(15));
        assertThat(Objects.requireNonNull(plate.promise()).totalS()).isGreaterThan(300);
        assertThat(plate.plan().recipe().layerHeightMm()).as("as the file has it").isCloseTo(0.2, within(1e-6));
        mvc.perform(open("/tickets/%d/plans/%d/quote".formatted(id, plate.plan().id()))).andExpect(content().string(containsString("as its file says")));
        mvc.perform(open("/plates/" + plate.id())).andExpect(status().isOk());
        mvc.perform(open("/plates/%d/judged".formatted(plate.id()))).andExpect(status().isOk());
        mvc.perform(open("/tickets/" + id)).andExpect(status().isOk());
    }

    @Test
    void it_can_be_neither_turned_nor_scaled_nor_mended_nor_laid_with_others_nor_moved() throws Exception {
        long id = accepted(brought("fixed.gcode", sliced("door", BuiltIn.PLA, 55, 55)), 1);
        Ticket ticket = tickets.ticket(id);
        assertThatThrownBy(() -> tickets.turn(ticket, Rotation.bringingDown(1, 0, 0), "mira")).isInstanceOf(Refusal.class).hasMessageContaining("sliced already");
        assertThatThrownBy(() -> tickets.resize(ticket, LengthUnit.MILLIMETRE, 50, "mira")).isInstanceOf(Refusal.class);
        for (String step : List.of("repair", "split")) {
            mvc.perform(send("/tickets/%d/gauge/%s".formatted(id, step)).param("seen", Seen.of(ticket)).param("token", UUID.randomUUID().toString()))
                    .andExpect(content().string(containsString("sliced already")));
        }
        assertThatThrownBy(() -> plates.draft(List.of(ticket), planning.entry(ticket), Sequence.TOGETHER, "mira")).isInstanceOf(Refusal.class)
                .hasMessageContaining("printed by itself");
        mvc.perform(open("/plates/new")).andExpect(content().string(not(containsString("fixed.gcode"))));
        long plate = plates.queue(ticket, plans.keep(planning.entry(ticket).from(steps.spool("pla", 900))), "mira").getFirst();
        plates.putBack(plates.plate(plate), "to try", "mira");
        LaidPlate draft = plates.plate(plate);
        mvc.perform(open("/plates/" + plate)).andExpect(content().string(allOf(containsString("as its file says"), not(containsString("Lay them out anew")))));
        Ticket other = tickets.ticket(steps.accepted(Shapes.box(10, 10, 5), 1));
        assertThatThrownBy(() -> plates.add(draft, other, "mira")).isInstanceOf(Refusal.class).hasMessageContaining("printed by itself");
        assertThat(plates.nested(draft, draft.plan().entry(), draft.sequence())).containsExactly(draft.copies().getFirst().copy().place());
        assertThatThrownBy(() -> plates.rearrange(draft, draft.plan().entry(), draft.sequence(), List.of(draft.copies().getFirst().copy().place().movedBy(5, 0))))
                .isInstanceOf(Refusal.class).hasMessageContaining("cannot be moved");
    }

    @Test
    void another_printer_can_be_chosen_on_its_form_and_asks_for_no_recipe() throws Exception {
        long id = accepted(brought("either.gcode", sliced("door", BuiltIn.PLA, 40, 40)), 1);
        PlanEntry entry = planning.entry(tickets.ticket(id));
        MultiValueMap<String, String> form = PlanForm.values(entry.recipe());
        form.set("start", entry.start().code());
        form.set("madeFor", RecipePage.of(entry).madeFor());
        form.set("printer", entry.printerId().equals("old") ? "door" : "old");
        form.set("spool", Long.toString(steps.spool("pla", 900)));
        mvc.perform(send("/tickets/%d/plan/preview".formatted(id)).params(form)).andExpect(content().string(allOf(containsString("It lies where the file lays it."),
                not(containsString("cannot be laid by this nozzle")), not(containsString("What else could be done?")))));
    }

    @Test
    void what_stops_it_on_a_printer_or_a_spool_stops_the_queue() throws Exception {
        long id = accepted(brought("hot.gcode", sliced("door", BuiltIn.ABS, 50, 50)), 1);
        assertThat(planning.material(tickets.ticket(id), planning.entry(tickets.ticket(id))).id()).as("told by its temperatures").isEqualTo("abs");
        Ticket ticket = tickets.ticket(id);
        assertThatThrownBy(() -> plates.queue(ticket, plans.keep(planning.entry(ticket).with(steps.everyday(), "door").from(steps.spool("pla", 900))), "mira"))
                .isInstanceOf(Refusal.class).hasMessageStartingWith("It heats the bed to 100 °C; PLA wants about 60 °C. Ask which filament");
    }

    @Test
    void the_same_file_again_is_said_before_it_is_another_ticket() throws Exception {
        byte[] file = sliced("door", BuiltIn.PLA, 44, 44);
        brought("first.gcode", file);
        String next = handedOver("again.gcode", file);
        assertThat(next).startsWith("/counter/hand-overs/");
        mvc.perform(open(next)).andExpect(content().string(allOf(containsString("This very file came before"), containsString("again.gcode"))));
    }

    private void page(long id, String... texts) throws Exception {
        for (String text : texts) {
            mvc.perform(open("/tickets/" + id)).andExpect(content().string(containsString(text)));
        }
    }

    private long accepted(long id, int copies) {
        acceptance.accept(tickets.ticket(id), new Request(members.named("June Abara").orElseThrow().id(), Purpose.DISPLAY, null, "", "", copies, "", ""), "mira");
        return id;
    }

    private long brought(String name, byte[] file) throws Exception {
        String next = handedOver(name, file);
        assertThat(next).startsWith("/tickets/");
        return Long.parseLong(next.substring("/tickets/".length()));
    }

    private String handedOver(String name, byte[] file) throws Exception {
        return Objects.requireNonNull(mvc.perform(multipart("/counter").file(new MockMultipartFile("file", name, "text/plain", file)).param("token",
                UUID.randomUUID().toString()).with(user("mira").roles("COORDINATOR")).with(csrf())).andExpect(status().is3xxRedirection())
                .andReturn().getResponse().getRedirectedUrl());
    }

    /** A block of 20 × 20 × 3 mm, its front left corner at a place. */
    private byte[] sliced(String printerId, Material material, double x, double y) throws IOException {
        Printer printer = printerId.equals("large") ? BuiltIn.printer("large").orElseThrow() : inventory.printer(printerId).orElseThrow().printer();
        Recipe recipe = StartingPoint.DAILY_BREAD.recipe(printer.nozzle(), printer.kinematics());
        Toolpath lines = Toolpath.of(Shapes.box(20, 20, 3), recipe, Progress.IGNORED);
        ByteArrayOutputStream out = new ByteArrayOutputStream();
        new GcodeFile(lines, Motion.of(lines, recipe, printer, Progress.IGNORED), recipe, printer, material, x, y, List.of("from home")).write(out);
        return out.toByteArray();
    }
}
