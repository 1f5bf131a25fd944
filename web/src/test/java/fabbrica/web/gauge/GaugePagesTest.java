package fabbrica.web.gauge;

import static fabbrica.web.Steps.open;
import static fabbrica.web.Steps.send;
import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.assertj.core.api.Assertions.within;
import static org.hamcrest.Matchers.allOf;
import static org.hamcrest.Matchers.containsString;
import static org.hamcrest.Matchers.not;
import static org.springframework.security.test.web.servlet.request.SecurityMockMvcRequestPostProcessors.user;
import static org.springframework.test.web.servlet.request.MockMvcRequestBuilders.get;
import static org.springframework.test.web.servlet.result.MockMvcResultMatchers.content;
import static org.springframework.test.web.servlet.result.MockMvcResultMatchers.redirectedUrl;
import static org.springframework.test.web.servlet.result.MockMvcResultMatchers.status;

import fabbrica.core.inspect.Inspection;
import fabbrica.core.mesh.io.ModelFiles;
import fabbrica.core.mesh.io.ModelFormat;
import fabbrica.core.mesh.io.ModelReading.ReadModel;
import fabbrica.core.mesh.io.ModelSource;
import fabbrica.core.mesh.model.Mesh;
import fabbrica.core.mesh.model.Rotation;
import fabbrica.core.mesh.model.Shapes;
import fabbrica.core.units.LengthUnit;
import fabbrica.web.DemoLabTest;
import fabbrica.web.Files3d;
import fabbrica.web.Steps;
import fabbrica.web.counter.HandOver;
import fabbrica.web.counter.Intake;
import fabbrica.web.platform.Inspections;
import fabbrica.web.platform.Refusal;
import fabbrica.web.ticket.Purpose;
import fabbrica.web.ticket.Ticket;
import fabbrica.web.ticket.Ticket.Request;
import fabbrica.web.ticket.TicketState;
import fabbrica.web.ticket.Tickets;
import java.io.ByteArrayInputStream;
import java.io.IOException;
import java.nio.ByteBuffer;
import java.nio.ByteOrder;
import java.util.List;
import java.util.UUID;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.springframework.beans.factory.annotation.Autowired;
import org.springframework.test.web.servlet.MockMvc;

@DemoLabTest
class GaugePagesTest {

    @Autowired
    private MockMvc mvc;
    @Autowired
    private Steps steps;
    @Autowired
    private Tickets tickets;
    @Autowired
    private Inspections inspections;
    @Autowired
    private Gauge gauge;
    @Autowired
    private Intake intake;

    @Test
    void the_part_comes_to_the_screen_as_it_lies_in_millimetres() throws Exception {
        long id = steps.taken(Shapes.box(1, 2, 3));
        tickets.resize(tickets.ticket(id), LengthUnit.INCH, 50, "mira");
        byte[] sent = mvc.perform(open(at(id, "/mesh"))).andExpect(status().isOk()).andReturn().getResponse()
                .getContentAsByteArray();
        ByteBuffer data = ByteBuffer.wrap(sent).order(ByteOrder.LITTLE_ENDIAN);
        assertThat(data.getInt(0)).isEqualTo(8);
        assertThat(data.getInt(4)).isEqualTo(12);
        assertThat(sent).hasSize(8 + 8 * 12 + 12 * 12);
        double highest = 0;
        for (int v = 0; v < 8; v++) {
            highest = Math.max(highest, data.getFloat(8 + 12 * v + 8));
        }
        assertThat(highest).isCloseTo(38.1, within(1e-4));
    }

    @Test
    void turning_is_kept_told_in_the_history_and_takes_a_queued_ticket_out_of_its_queue() throws Exception {
        long id = steps.ticketOf(steps.queued(Shapes.box(20, 30, 40), 1, steps.printer(), steps.spool("pla", 500)));
        mvc.perform(send(at(id, "/turn")).param("w", "1").param("x", "1").param("y", "0").param("z", "0"))
                .andExpect(redirectedUrl("/tickets/" + id));
        Ticket turned = tickets.ticket(id);
        assertThat(turned.state()).isEqualTo(TicketState.ACCEPTED);
        assertThat(inspections.of(turned.part()).bounds().sizeZ()).isCloseTo(30, within(1e-9));
        assertThat(tickets.history(id)).extracting(event -> event.what())
                .contains("turned to lie another way", "taken out of the queue");
    }

    @Test
    void faces_laid_down_one_after_another_add_up() throws Exception {
        long id = steps.taken(Shapes.box(20, 30, 40));
        mvc.perform(send(at(id, "/face-down")).param("nx", "1").param("ny", "0").param("nz", "0"));
        assertThat(inspections.of(tickets.ticket(id).part()).bounds().sizeZ()).isCloseTo(20, within(1e-9));
        mvc.perform(send(at(id, "/face-down")).param("nx", "0").param("ny", "1").param("nz", "0"));
        assertThat(inspections.of(tickets.ticket(id).part()).bounds().sizeZ()).isCloseTo(30, within(1e-9));
        assertThatThrownBy(() -> gauge.faceDown(tickets.ticket(id), 0, 0, 0, "mira")).isInstanceOf(Refusal.class);
    }

    @Test
    void a_repair_is_a_revision_and_the_file_as_it_came_can_be_had_back() throws Exception {
        Mesh holed = Shapes.without(Shapes.box(20, 20, 20), 0, 2);
        long id = steps.taken(holed);
        String before = tickets.ticket(id).model().sha256();
        mvc.perform(send(at(id, "/repair"))).andExpect(redirectedUrl("/tickets/" + id));
        Ticket mended = tickets.ticket(id);
        assertThat(mended.model().sha256()).isNotEqualTo(before);
        assertThat(mended.model().madeBy()).startsWith("Repaired: 1 hole filled");
        assertThat(mended.model().format()).isEqualTo(ModelFormat.PLY);
        assertThat(inspections.of(mended.part()).soundness().watertight()).isTrue();
        mvc.perform(open("/tickets/" + id)).andExpect(content().string(allOf(
                containsString("What the revision changed"), containsString("Go back to the file as it came"))));
        assertThatThrownBy(() -> gauge.repair(tickets.ticket(id), "mira")).isInstanceOf(Refusal.class)
                .hasMessageContaining("nothing here that can be repaired safely");
        mvc.perform(send(at(id, "/original")));
        assertThat(tickets.ticket(id).model().sha256()).isEqualTo(before);
        assertThatThrownBy(() -> tickets.restore(tickets.ticket(id), "mira")).isInstanceOf(Refusal.class);
    }

    @Test
    void a_repair_happens_in_the_unit_the_file_is_read_in() throws IOException {
        long id = steps.taken(Shapes.without(Shapes.box(2, 2, 2), 0, 2));
        tickets.resize(tickets.ticket(id), LengthUnit.INCH, 100, "mira");
        gauge.repair(tickets.ticket(id), "mira");
        Inspection mended = inspections.of(tickets.ticket(id).part());
        assertThat(mended.bounds().sizeX()).isCloseTo(50.8, within(1e-9));
        assertThat(mended.soundness().watertight()).isTrue();
    }

    @Test
    void bodies_taken_apart_keep_what_was_asked_for() throws IOException {
        long id = steps.taken(Shapes.together(Shapes.box(20, 20, 20), Shapes.box(5, 6, 7).moved(40, 0, 0)));
        tickets.saveRequest(tickets.ticket(id), new Request(null, Purpose.DISPLAY, null, "PLA", "teal", 3, "a friend", ""));
        List<Long> others = gauge.split(tickets.ticket(id), "mira");
        assertThat(others).hasSize(1);
        Ticket other = tickets.ticket(others.getFirst());
        assertThat(other.request().colourWish()).isEqualTo("teal");
        assertThat(inspections.of(other.part()).bounds().sizeZ()).isCloseTo(7, within(1e-9));
        assertThat(inspections.of(tickets.ticket(id).part()).bounds().sizeZ()).isCloseTo(20, within(1e-9));
        assertThatThrownBy(() -> gauge.split(tickets.ticket(id), "mira")).isInstanceOf(Refusal.class).hasMessageContaining("one body");
        assertThat(intake.unsorted()).as("revisions are no files to sort").noneMatch(handOver ->
                handOver.name().equals("part.stl"));
    }

    @ParameterizedTest
    @CsvSource({"stl, STL_BINARY", "3mf, THREE_MF", "obj, OBJ", "ply, PLY", "amf, AMF"})
    void the_part_can_be_taken_along_as_it_lies(String ending, ModelFormat format) throws Exception {
        long id = steps.taken(Shapes.box(10, 20, 30));
        tickets.resize(tickets.ticket(id), LengthUnit.MILLIMETRE, 200, "mira");
        tickets.turn(tickets.ticket(id), Rotation.bringingDown(1, 0, 0), "mira");
        byte[] file = mvc.perform(open(at(id, "/part." + ending))).andExpect(status().isOk()).andReturn().getResponse()
                .getContentAsByteArray();
        ReadModel read = (ReadModel) ModelFiles.read(ModelSource.of("part", file), 1 << 20);
        assertThat(read.format()).isEqualTo(format);
        assertThat(read.mesh().bounds().sizeZ()).isCloseTo(20, within(1e-4));
        assertThat(read.mesh().bounds().minZ()).isCloseTo(0, within(1e-4));
    }

    @Test
    void a_part_that_stops_is_promised_no_time() throws Exception {
        long holed = steps.taken(Shapes.without(Shapes.box(12, 12, 4), 3)), sound = steps.taken(Shapes.box(12, 12, 4));
        assertThat(promise(sound)).contains("could start");
        assertThat(promise(holed)).doesNotContain("could start").contains("has a finding that stops the print");
    }

    /** What the page says of the plan that is proposed, once it is worked out. */
    private String promise(long id) throws Exception {
        String page = "";
        for (int i = 0; i < 600 && (page.isEmpty() || page.contains("hx-trigger")); i++) {
            Thread.sleep(100);
            page = mvc.perform(open("/tickets/" + id + "/promise")).andReturn().getResponse().getContentAsString();
        }
        return page;
    }

    @Test
    void an_unknown_format_is_refused_with_a_sentence() throws Exception {
        mvc.perform(open(at(steps.taken(Shapes.box(9, 9, 9)), "/part.dwg")))
                .andExpect(content().string(containsString("Choose one of the formats from the list.")));
    }

    @Test
    void another_scale_says_which_findings_come_and_go_before_it_is_chosen() throws Exception {
        long id = steps.taken(Shapes.box(40, 30, 1.2));
        mvc.perform(open(at(id, "/scale?scale=25"))).andExpect(content().string(allOf(containsString("10 × 7.5 × 0.3 mm"),
                containsString("+ comes:"), containsString("Walls down to 0.3 mm"),
                containsString("Walls and gaps hold down to <strong>33 %"))));
        mvc.perform(open(at(id, "/scale?scale=much"))).andExpect(content().string(
                containsString("Scale takes a number; “much” was given.")));
        assertThat(tickets.ticket(id).scalePercent()).isEqualTo(100);
    }

    @Test
    void ways_to_lie_are_offered_with_what_each_takes() throws Exception {
        long id = steps.taken(Shapes.revolution(new double[] {0, 0, 5, 0, 5, 20, 15, 20, 15, 25, 0, 25}, 48));
        mvc.perform(open(at(id, "/poses"))).andExpect(content().string(allOf(containsString("as it lies now"),
                containsString("the best way found"), containsString("Lay it like this"), containsString("svg"))));
        assertThat(gauge.poses(tickets.ticket(id)).getFirst().pose().overhangMm2()).isZero();
    }

    @Test
    void the_report_has_the_verdict_the_findings_with_their_places_and_the_measures() throws Exception {
        long id = steps.taken(Shapes.without(Shapes.box(20, 20, 20), 0, 2));
        mvc.perform(open(at(id, "/report"))).andExpect(content().string(allOf(containsString("■ Does not print as it is"),
                containsString("Places"), containsString("hole, 80.0 mm around"), containsString("Thinnest wall"))));
    }

    @Test
    void designers_notes_stand_beside_the_recommendation_and_the_sources_record_too() throws Exception {
        String source = "source " + UUID.randomUUID();
        long failed = steps.accepted(Shapes.box(20, 20, 5), 1);
        Request named = new Request(null, Purpose.EVERYDAY, null, "", "", 1, source, "No supports, please use a raft");
        long first = steps.taken(Shapes.cone(4, 30, 25, 40)), second = steps.taken(Shapes.box(30, 30, 30));
        tickets.saveRequest(tickets.ticket(first), named);
        tickets.saveRequest(tickets.ticket(second), named);
        mvc.perform(open("/tickets/" + first)).andExpect(content().string(allOf(containsString("no supports"),
                containsString("◆ differs"), containsString(source), containsString("needs supports"))));
        mvc.perform(open(at(first, "/before"))).andExpect(content().string(allOf(containsString(source), containsString("1 file"))));
        assertThat(tickets.experience(tickets.ticket(first)).failed()).isZero();
        assertThat(tickets.ticket(failed).request().source()).isEmpty();
    }

    @Test
    void pieces_of_a_parcel_say_what_was_found_on_each() throws Exception {
        byte[] zip = Files3d.zip("good.stl", Files3d.stl(Shapes.box(30, 20, 10)), "thin.stl",
                Files3d.stl(Shapes.box(30, 20, 0.3)));
        HandOver parcel = intake.take("parcel.zip", zip.length, new ByteArrayInputStream(zip), UUID.randomUUID().toString(),
                "mira");
        String pieces = "/counter/hand-overs/" + parcel.id() + "/pieces/";
        mvc.perform(open(pieces + parcel.pieces().get(0).modelId())).andExpect(content().string(allOf(
                containsString("30 × 20 × 10 mm"), containsString("● nothing to report"))));
        mvc.perform(open(pieces + parcel.pieces().get(1).modelId())).andExpect(content().string(
                containsString("◆ thin wall")));
    }

    @Test
    void a_declared_unit_is_used_and_members_see_no_gauge() throws Exception {
        byte[] amf = ("<amf unit=\"inch\"><object id=\"1\"><mesh><vertices>" + corner(0, 0, 0) + corner(1, 0, 0)
                + corner(0, 1, 0) + corner(0, 0, 1) + "</vertices><volume>" + face(0, 2, 1) + face(0, 1, 3)
                + face(0, 3, 2) + face(1, 2, 3) + "</volume></mesh></object></amf>").getBytes();
        long id = intake.take("corner.amf", amf.length, new ByteArrayInputStream(amf), UUID.randomUUID().toString(), "mira")
                .pieces().getFirst().ticketId();
        assertThat(tickets.ticket(id).unit()).isEqualTo(LengthUnit.INCH);
        mvc.perform(open("/tickets/" + id)).andExpect(content().string(allOf(containsString("25.4 × 25.4 × 25.4 mm"),
                not(containsString("it looks drawn in")))));
        mvc.perform(get(at(id, "/report")).with(user("june").roles("MEMBER"))).andExpect(status().isForbidden());
    }

    private static String at(long id, String path) {
        return "/tickets/" + id + "/gauge" + path;
    }

    private static String corner(int x, int y, int z) {
        return "<vertex><coordinates><x>%d</x><y>%d</y><z>%d</z></coordinates></vertex>".formatted(x, y, z);
    }

    private static String face(int a, int b, int c) {
        return "<triangle><v1>%d</v1><v2>%d</v2><v3>%d</v3></triangle>".formatted(a, b, c);
    }
}
