package fabbrica.web.privacy;

import static fabbrica.web.Steps.open;
import static fabbrica.web.Steps.send;
import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.hamcrest.Matchers.containsString;
import static org.springframework.test.web.servlet.result.MockMvcResultMatchers.content;
import static org.springframework.test.web.servlet.result.MockMvcResultMatchers.redirectedUrl;
import static org.springframework.test.web.servlet.result.MockMvcResultMatchers.status;

import fabbrica.core.mesh.model.Shapes;
import fabbrica.core.run.Defect;
import fabbrica.core.run.Sign;
import fabbrica.web.DemoLabTest;
import fabbrica.web.Files3d;
import fabbrica.web.Steps;
import fabbrica.web.account.Accounts;
import fabbrica.web.account.Member;
import fabbrica.web.account.Members;
import fabbrica.web.account.Role;
import fabbrica.web.floor.Run;
import fabbrica.web.floor.RunEnd;
import fabbrica.web.floor.RunEnd.Outcome;
import fabbrica.web.floor.Runs;
import fabbrica.web.platform.Refusal;
import fabbrica.web.platform.storage.FileStore;
import fabbrica.web.ticket.Purpose;
import fabbrica.web.ticket.Ticket.Request;
import fabbrica.web.ticket.TicketState;
import fabbrica.web.ticket.Tickets;
import java.io.ByteArrayInputStream;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Set;
import java.util.zip.ZipEntry;
import java.util.zip.ZipInputStream;
import org.junit.jupiter.api.Test;
import org.springframework.beans.factory.annotation.Autowired;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.test.web.servlet.MockMvc;
import org.springframework.transaction.support.TransactionTemplate;

@DemoLabTest
class ForgettingTest {

    @Autowired
    private Members members;
    @Autowired
    private Accounts accounts;
    @Autowired
    private Tickets tickets;
    @Autowired
    private Forgetting forgetting;
    @Autowired
    private FileStore files;
    @Autowired
    private Steps steps;
    @Autowired
    private Runs runs;
    @Autowired
    private MockMvc mvc;
    @Autowired
    private JdbcClient jdbc;
    @Autowired
    private TransactionTemplate transaction;

    @Test
    void a_minor_is_forgotten_with_her_grown_up_and_what_was_printed_still_counts() throws Exception {
        long pupil = members.add(new Member(0, "Wilja Orrestad", true, "Tove Orrestad", "left-handed Wilja", "", Set.of("door")), "mira");
        accounts.add("wilja", "seven paper boats", Role.MEMBER, "Wilja", pupil, "mira");
        byte[] tag = Files3d.stl(Shapes.box(21, 13, 4));
        long ticket = ofMember(steps.taken(tag), pupil);
        long other = steps.taken(tag);
        long run = printed(ticket, "Wilja was in a hurry");
        tickets.decline(tickets.ticket(other), "wilja orrestad brought the same", "mira");
        String model = tickets.ticket(ticket).model().sha256(), photo = runs.run(run).photoSha256();

        mvc.perform(send("/members/" + pupil + "/forget")).andExpect(redirectedUrl("/members"));

        mvc.perform(open("/members/" + pupil)).andExpect(content().string(containsString("Former member " + pupil)));
        assertThat(members.search("Orrestad")).isEmpty();
        assertThat(members.named("Wilja Orrestad")).isEmpty();
        assertThatThrownBy(() -> accounts.loadUserByUsername("wilja")).hasMessage("unknown");
        mvc.perform(open("/tickets/" + ticket)).andExpect(status().isOk()).andExpect(content().string(containsString("no longer kept")))
                .andExpect(content().string(containsString("(name removed) was in a hurry")));
        assertThat(tickets.history(other).getLast().why()).isEqualTo("(name removed) brought the same");
        Run kept = runs.run(run);
        assertThat(kept.members()).isEqualTo("Former member " + pupil);
        assertThat(List.of(kept.realG(), kept.realMinutes())).containsExactly(3.0, 25.0);
        assertThat(files.path(photo)).doesNotExist();
        assertThat(files.path(model)).as("named by another ticket").exists();
        assertThat(onDisk()).doesNotContain("Orrestad").doesNotContain("orrestad").contains("Former member " + pupil);
    }

    @Test
    void models_that_nobody_else_needs_go_and_open_tickets_are_withdrawn() {
        long member = members.add(new Member(0, "Ebbe Tarn", false, "", "", "", Set.of()), "mira");
        long ticket = ofMember(steps.taken(Shapes.box(9, 8, 7.25)), member);
        String model = tickets.ticket(ticket).model().sha256();
        forgetting.forget(members.member(member).orElseThrow(), "mira");
        assertThat(files.path(model)).doesNotExist();
        assertThat(tickets.ticket(ticket).state()).isEqualTo(TicketState.WITHDRAWN);
        assertThatThrownBy(() -> tickets.reopen(tickets.ticket(ticket), "mira")).isInstanceOf(Refusal.class)
                .hasMessageContaining("Hand it over again");
        assertThatThrownBy(() -> tickets.ticket(ticket).part()).isInstanceOf(Refusal.class);
    }

    @Test
    void nobody_is_forgotten_in_the_middle_of_a_run_and_then_nothing_is_changed() {
        Member member = members.member(members.add(new Member(0, "Nils Ahto", false, "", "tall", "", Set.of("door")), "mira")).orElseThrow();
        long waiting = ofMember(steps.taken(Shapes.box(5, 6, 7.5)), member.id());
        long run = started(ofMember(steps.taken(Shapes.box(6, 6, 7.5)), member.id()));
        assertThatThrownBy(() -> forgetting.forget(member, "mira")).isInstanceOf(Refusal.class).hasMessageContaining("is printing");
        assertThat(members.member(member.id())).contains(member);
        assertThat(tickets.ticket(waiting).state()).isEqualTo(TicketState.NEW);
        steps.end(run, Outcome.WELL, 20, 2);
        forgetting.forget(member, "mira");
        assertThat(members.member(member.id()).orElseThrow().forgotten()).isTrue();
        assertThatThrownBy(() -> members.change(members.member(member.id()).orElseThrow(), member, "mira")).isInstanceOf(Refusal.class);
    }

    @Test
    void names_that_are_words_or_somebody_elses_stay_on_other_tickets() {
        long max = members.add(new Member(0, "Max", false, "", "", "", Set.of()), "mira");
        Member first = members.member(members.add(new Member(0, "Ina Sol", false, "", "", "", Set.of()), "mira")).orElseThrow();
        members.add(new Member(0, "Ina Sol", false, "", "", "", Set.of()), "mira");
        long other = steps.taken(Shapes.box(5, 5, 5.5));
        tickets.sendBack(tickets.ticket(other), "max 60 degrees, and Ina Sol has the ruler", "mira");
        forgetting.forget(members.member(max).orElseThrow(), "mira");
        forgetting.forget(first, "mira");
        assertThat(tickets.history(other).getLast().why()).isEqualTo("max 60 degrees, and Ina Sol has the ruler");
    }

    @Test
    void history_itself_is_never_changed() {
        long ticket = steps.taken(Shapes.box(4, 4, 4.5));
        for (String forgery : List.of("update event set by_account = null where ticket_id = " + ticket,
                "update event set facts = '{}' where ticket_id = " + ticket, "delete from event where ticket_id = " + ticket, "delete from remark")) {
            assertThatThrownBy(() -> change(forgery)).hasMessageContaining("append-only");
        }
    }

    private void change(String... statements) {
        transaction.executeWithoutResult(status -> List.of(statements).forEach(statement -> jdbc.sql(statement).update()));
    }

    @Test
    void members_have_all_that_is_kept_of_them_in_an_archive() throws Exception {
        long member = members.add(new Member(0, "Liv Askeby", false, "", "prefers blue", "", Set.of("door")), "mira");
        accounts.add("liv", "seven paper boats", Role.MEMBER, "Liv", member, "mira");
        long ticket = ofMember(steps.taken(Shapes.box(12, 13, 4)), member);
        printed(ticket, "");
        byte[] archive = mvc.perform(open("/members/" + member + "/data")).andReturn().getResponse().getContentAsByteArray();
        assertThat(names(archive)).contains("data.json", "ticket-" + ticket + "/part.stl").anyMatch(name -> name.contains("photo-of-run"));
        assertThat(new String(first(archive), StandardCharsets.UTF_8)).contains("Liv Askeby", "prefers blue", "\"grams\" : 3.0", "run done");
        mvc.perform(open("/own-data", "liv", Role.MEMBER))
                .andExpect(result -> assertThat(names(result.getResponse().getContentAsByteArray())).isEqualTo(names(archive)));
    }

    @Test
    void who_only_works_in_the_lab_has_what_they_did() throws Exception {
        long ticket = steps.taken(Shapes.box(3, 3, 3.5));
        tickets.decline(tickets.ticket(ticket), "too small to hold", "tomas");
        byte[] archive = mvc.perform(open("/own-data", "tomas", Role.HELPER)).andReturn().getResponse().getContentAsByteArray();
        assertThat(new String(first(archive), StandardCharsets.UTF_8)).contains("\"tomas\"", "too small to hold");
        assertThat(names(archive)).containsExactly("data.json");
    }

    private long ofMember(long ticket, long member) {
        tickets.saveRequest(tickets.ticket(ticket), new Request(member, Purpose.EVERYDAY, null, "", "", 1, "", ""));
        return ticket;
    }

    private long started(long ticket) {
        tickets.accept(tickets.ticket(ticket), tickets.ticket(ticket).request(), "mira");
        return steps.started(steps.queue(ticket, steps.printer(), steps.spool("pla", 300)));
    }

    private long printed(long ticket, String cause) throws IOException {
        long run = started(ticket);
        try (FileStore.Batch batch = files.batch()) {
            String photo = batch.store(new ByteArrayInputStream(("photo of " + ticket).getBytes())).sha256();
            RunEnd end = steps.end(run, Outcome.WELL, 25, 3, cause);
            runs.end(run, new RunEnd(end.took(), end.copies(), List.of(Sign.of(Defect.STRINGS)), cause, "", photo, "image/png"), "mira");
        }
        return run;
    }

    private String onDisk() throws IOException {
        StringBuilder all = new StringBuilder();
        for (String name : List.of("fabbrica.db", "fabbrica.db-wal")) {
            Path file = Path.of("target/demo-lab", name);
            all.append(Files.exists(file) ? new String(Files.readAllBytes(file), StandardCharsets.ISO_8859_1) : "");
        }
        return all.toString();
    }

    private static List<String> names(byte[] archive) throws IOException {
        try (ZipInputStream zip = new ZipInputStream(new ByteArrayInputStream(archive))) {
            List<String> names = new ArrayList<>();
            for (ZipEntry entry = zip.getNextEntry(); entry != null; entry = zip.getNextEntry()) {
                names.add(entry.getName());
            }
            return names;
        }
    }

    private static byte[] first(byte[] archive) throws IOException {
        try (ZipInputStream zip = new ZipInputStream(new ByteArrayInputStream(archive))) {
            zip.getNextEntry();
            return zip.readAllBytes();
        }
    }
}
