package fabbrica.web.account;

import static fabbrica.web.Steps.send;
import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.assertj.core.api.Assertions.tuple;
import static org.hamcrest.Matchers.allOf;
import static org.hamcrest.Matchers.containsString;
import static org.springframework.security.test.web.servlet.request.SecurityMockMvcRequestPostProcessors.csrf;
import static org.springframework.security.test.web.servlet.request.SecurityMockMvcRequestPostProcessors.user;
import static org.springframework.test.web.servlet.request.MockMvcRequestBuilders.multipart;
import static org.springframework.test.web.servlet.result.MockMvcResultMatchers.content;
import static org.springframework.test.web.servlet.result.MockMvcResultMatchers.redirectedUrl;

import fabbrica.core.mesh.model.Shapes;
import fabbrica.web.DemoLabTest;
import fabbrica.web.Steps;
import fabbrica.web.platform.Seen;
import fabbrica.web.ticket.Purpose;
import fabbrica.web.ticket.Ticket;
import fabbrica.web.ticket.Ticket.Request;
import fabbrica.web.ticket.Tickets;
import java.nio.charset.Charset;
import java.nio.charset.StandardCharsets;
import java.util.Set;
import org.junit.jupiter.api.Test;
import org.springframework.beans.factory.annotation.Autowired;
import org.springframework.mock.web.MockMultipartFile;
import org.springframework.test.web.servlet.MockMvc;
import org.springframework.test.web.servlet.request.MockMultipartHttpServletRequestBuilder;

@DemoLabTest
class ClassListTest {

    @Autowired
    private MockMvc mvc;
    @Autowired
    private Members members;
    @Autowired
    private Tickets tickets;
    @Autowired
    private Steps steps;

    private MockMultipartHttpServletRequestBuilder list(byte[] csv) {
        return multipart("/members/list").file(new MockMultipartFile("file", "class.csv", "text/csv", csv)).with(user("mira").roles("COORDINATOR")).with(csrf());
    }

    @Test
    void columns_are_found_by_their_names_however_spreadsheets_write_them() {
        Member quoted = ClassList.of("Name,E-Mail,Grown-up,Grown-up mail\r\n\"Onno, Rike\",rike@home.example,Tove Onno,tove@home.example\r\n").getFirst().member();
        assertThat(quoted).isEqualTo(new Member(0, "Onno, Rike", true, "Tove Onno", "", "", Set.of()).with(new Member.Mail("rike@home.example", "tove@home.example")));
        assertThat(ClassList.of("Surname;First name;minor;parent\nVell;Sora;yes;Ines Vell\nKarst;Odo;no;\n")).extracting(line -> line.member().name(), line -> line.member().minor())
                .containsExactly(tuple("Sora Vell", true), tuple("Odo Karst", false));
        assertThat(ClassList.of("Student\tnote\n\nAda Quist\tleft-handed\n").getFirst().member().note()).isEqualTo("left-handed");
        assertThatThrownBy(() -> ClassList.of("Ada Quist,ada@home.example\n")).hasMessageContaining("has to name the columns");
        assertThatThrownBy(() -> ClassList.of("name,mail\n")).hasMessageContaining("nobody on this list");
        assertThatThrownBy(() -> ClassList.of("name\n\"never closed")).hasMessageContaining("cannot be read");
    }

    @Test
    void names_are_one_in_any_order_and_with_or_without_accents_and_near_with_a_slip() {
        assertThat(NameKey.of("Ábara, June")).isEqualTo(NameKey.of("june abara"));
        assertThat(NameKey.of("Juen Abara").isNear(NameKey.of("June Abara"))).isTrue();
        assertThat(NameKey.of("Al Bo").isNear(NameKey.of("Al Bu"))).as("short names are told apart").isFalse();
        assertThat(NameKey.of("Piet Lindqvar").isNear(NameKey.of("June Abara"))).isFalse();
    }

    @Test
    void a_list_is_looked_at_first_and_then_adds_who_is_new_and_fills_in_what_was_missing() throws Exception {
        long known = members.add(new Member(0, "Kaj Öst Berg", false, "", "", "", Set.of("door")), "mira");
        byte[] csv = "name;mail;grown-up\nBerg Kaj Ost;kaj@home.example;\nLumi Sarv;;Aino Sarv\nLumi Sarv;;Aino Sarv\nLumi Sarw;not a mail;\n".getBytes(StandardCharsets.UTF_8);
        String page = mvc.perform(list(csv)).andExpect(content().string(allOf(containsString("1 new, 1 known already, 2 cannot be taken."),
                containsString("stands on the list twice"), containsString("is no address that mail can be sent to")))).andReturn().getResponse().getContentAsString();
        assertThat(page).contains("Kaj Öst Berg");
        assertThat(members.named("Lumi Sarv")).isEmpty();
        mvc.perform(send("/members/list/keep").param("csv", new String(csv, StandardCharsets.UTF_8))).andExpect(redirectedUrl("/members"));
        assertThat(members.member(known).orElseThrow()).isEqualTo(new Member(known, "Kaj Öst Berg", false, "", "", "", Set.of("door")).with(new Member.Mail("kaj@home.example", "")));
        assertThat(members.named("Lumi Sarv").orElseThrow().grownUp()).isEqualTo("Aino Sarv");
    }

    @Test
    void letters_of_a_windows_spreadsheet_are_read() throws Exception {
        mvc.perform(list("name\nZo\u00eb Br\u00fcl\n".getBytes(Charset.forName("windows-1252")))).andExpect(content().string(containsString("Zoë Brül")));
    }

    @Test
    void doubles_become_one_with_the_tickets_badges_and_accounts_of_both() throws Exception {
        long kept = members.add(new Member(0, "Mads Teel", false, "", "", "", Set.of("door")), "mira");
        long twin = members.add(new Member(0, "Madz Teel", true, "Rut Teel", "", "", Set.of("old")).with(new Member.Mail("mads@home.example", "")), "mira");
        long ticket = steps.taken(Shapes.box(20, 20, 6));
        tickets.saveRequest(tickets.ticket(ticket), new Request(twin, Purpose.DISPLAY, null, "", "", 1, "", ""));
        mvc.perform(send("/members/" + kept + "/merge").param("seen", Seen.of(members.member(kept).orElseThrow())).param("same", "madz teel"))
                .andExpect(redirectedUrl("/members/" + kept));
        assertThat(members.member(twin)).isEmpty();
        assertThat(members.member(kept).orElseThrow()).isEqualTo(new Member(kept, "Mads Teel", true, "Rut Teel", "", "", Set.of("door", "old"))
                .with(new Member.Mail("mads@home.example", "")));
        assertThat(tickets.ofMember(kept)).extracting(Ticket::id).containsExactly(ticket);
    }
}
