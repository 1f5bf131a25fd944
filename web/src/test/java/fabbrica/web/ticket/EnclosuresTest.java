package fabbrica.web.ticket;

import static fabbrica.web.Steps.open;
import static org.assertj.core.api.Assertions.assertThat;
import static org.hamcrest.Matchers.allOf;
import static org.hamcrest.Matchers.containsString;
import static org.hamcrest.Matchers.not;
import static org.springframework.test.web.servlet.result.MockMvcResultMatchers.content;
import static org.springframework.test.web.servlet.result.MockMvcResultMatchers.header;
import static org.springframework.test.web.servlet.result.MockMvcResultMatchers.status;

import fabbrica.core.mesh.io.ModelFormat;
import fabbrica.core.mesh.model.Shapes;
import fabbrica.web.DemoLabTest;
import fabbrica.web.Files3d;
import fabbrica.web.account.Member;
import fabbrica.web.account.Members;
import fabbrica.web.counter.HandOver;
import fabbrica.web.counter.Intake;
import fabbrica.web.platform.Inspections;
import fabbrica.web.privacy.Forgetting;
import fabbrica.web.ticket.Ticket.Request;
import java.io.ByteArrayInputStream;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.util.Objects;
import java.util.Set;
import java.util.UUID;
import org.junit.jupiter.api.Test;
import org.springframework.beans.factory.annotation.Autowired;
import org.springframework.test.web.servlet.MockMvc;

/** What designers send along in an archive. */
@DemoLabTest
class EnclosuresTest {

    /** The signature of PNG (ISO/IEC 15948, 5.2) and something after it. */
    private static final byte[] PNG = {(byte) 0x89, 'P', 'N', 'G', 13, 10, 26, 10, 0};

    @Autowired
    private MockMvc mvc;
    @Autowired
    private Intake intake;
    @Autowired
    private Tickets tickets;
    @Autowired
    private Enclosures enclosures;
    @Autowired
    private Inspections inspections;
    @Autowired
    private Members members;
    @Autowired
    private Forgetting forgetting;

    private long taken() throws IOException {
        byte[] zip = Files3d.zip("vase/vase.stl", Files3d.stl(Shapes.box(18, 18, 40)), "vase/README.md", "Print <b>slowly</b>, no supports.".getBytes(StandardCharsets.UTF_8),
                "LICENSE", "Share alike.".getBytes(StandardCharsets.UTF_8), "photo.png", PNG, "fake.jpg", "<script>".getBytes(StandardCharsets.UTF_8),
                "huge.txt", new byte[200_000]);
        HandOver taken = intake.take("vase.zip", zip.length, new ByteArrayInputStream(zip), UUID.randomUUID().toString(), "mira");
        return Objects.requireNonNull(taken.pieces().getFirst().ticketId());
    }

    @Test
    void notes_a_licence_and_pictures_stand_on_the_ticket_and_what_is_none_is_left_behind() throws Exception {
        long id = taken();
        assertThat(enclosures.of(tickets.ticket(id))).extracting(Enclosure::name).containsExactly("README.md", "LICENSE", "photo.png");
        inspections.of(tickets.ticket(id).part());
        Enclosure picture = enclosures.of(tickets.ticket(id)).getLast();
        mvc.perform(open("/tickets/" + id)).andExpect(content().string(allOf(containsString("Print &lt;b&gt;slowly&lt;/b&gt;, no supports."), containsString("Share alike."),
                containsString("/tickets/" + id + "/enclosed/" + picture.id()), not(containsString("fake.jpg")))));
        mvc.perform(open("/tickets/" + id + "/enclosed/" + picture.id())).andExpect(header().string("Content-Type", "image/png"))
                .andExpect(header().string("X-Content-Type-Options", "nosniff")).andExpect(content().bytes(PNG));
        mvc.perform(open("/tickets/34/enclosed/" + picture.id())).andExpect(status().isNotFound());
    }

    @Test
    void they_stay_with_a_model_that_was_mended_and_go_when_its_member_is_forgotten() throws Exception {
        long id = taken();
        long member = members.add(new Member(0, "Vera Loos " + UUID.randomUUID(), false, "", "", "", Set.of()), "mira");
        Ticket ticket = tickets.ticket(id);
        tickets.saveRequest(ticket, new Request(member, Purpose.DISPLAY, null, "", "", 1, "", ""));
        tickets.revise(tickets.ticket(id), new Revision("vase.ply", Objects.requireNonNull(ticket.model().sha256()), 9, ModelFormat.PLY, "mended"), "mira");
        assertThat(enclosures.of(tickets.ticket(id))).hasSize(3);
        forgetting.forget(members.member(member).orElseThrow(), "mira");
        assertThat(enclosures.of(tickets.ticket(id))).isEmpty();
    }
}
