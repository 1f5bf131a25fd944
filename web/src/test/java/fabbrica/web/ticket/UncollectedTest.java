package fabbrica.web.ticket;

import static fabbrica.web.Steps.open;
import static fabbrica.web.Steps.send;
import static org.assertj.core.api.Assertions.assertThat;
import static org.hamcrest.Matchers.allOf;
import static org.hamcrest.Matchers.containsString;
import static org.hamcrest.Matchers.not;
import static org.springframework.test.web.servlet.result.MockMvcResultMatchers.content;
import static org.springframework.test.web.servlet.result.MockMvcResultMatchers.redirectedUrl;

import fabbrica.core.mesh.model.Shapes;
import fabbrica.web.DemoLabTest;
import fabbrica.web.Steps;
import fabbrica.web.floor.RunEnd;
import fabbrica.web.platform.Seen;
import fabbrica.web.platform.events.Fact;
import fabbrica.web.platform.events.Outbox;
import fabbrica.web.stores.Inventory;
import java.time.Clock;
import java.time.Duration;
import java.util.List;
import org.junit.jupiter.api.Test;
import org.springframework.beans.factory.annotation.Autowired;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.test.web.servlet.MockMvc;
import org.springframework.transaction.support.TransactionTemplate;

/** What is printed waits on its shelf, is reminded of, and is put away in the end. */
@DemoLabTest
class UncollectedTest {

    @Autowired
    private MockMvc mvc;
    @Autowired
    private Steps steps;
    @Autowired
    private Tickets tickets;
    @Autowired
    private Outbox outbox;
    @Autowired
    private Inventory inventory;
    @Autowired
    private Clock clock;
    @Autowired
    private JdbcClient jdbc;
    @Autowired
    private TransactionTemplate transaction;

    private long printed() {
        long plate = steps.queued(Shapes.box(20, 20, 6), 1, steps.printer(), steps.spool("pla", 300));
        steps.end(steps.started(plate), RunEnd.Outcome.WELL, 10, 2);
        return steps.ticketOf(plate);
    }

    private Uncollected after(int days) {
        return new Uncollected(tickets, outbox, inventory, Clock.offset(clock, Duration.ofDays(days)));
    }

    private long reminders(long ticket) {
        return tickets.history(ticket).stream().filter(event -> event.fact() instanceof Fact.Reminded).count();
    }

    @Test
    void its_member_is_reminded_after_some_days_and_not_before() {
        long id = printed();
        after(2).remind();
        assertThat(reminders(id)).isZero();
        after(4).remind();
        assertThat(reminders(id)).isEqualTo(1);
        assertThat(outbox.ofTickets(List.of(id)).getFirst().event().fact()).isEqualTo(new Fact.Reminded());
        after(2).remind();
        assertThat(reminders(id)).as("and not again at once").isEqualTo(1);
    }

    @Test
    void it_lies_where_somebody_has_said() throws Exception {
        long id = printed();
        mvc.perform(send("/tickets/" + id + "/shelf").param("seen", Seen.of(tickets.ticket(id))).param("shelf", "rack 2, box B")).andExpect(redirectedUrl("/tickets/" + id));
        mvc.perform(open("/now")).andExpect(content().string(allOf(containsString("It lies at rack 2, box B."), containsString("/tickets/" + id + "/hand-out"))));
    }

    @Test
    void what_nobody_collects_is_put_away_in_the_end_and_its_member_is_told() throws Exception {
        long id = printed();
        mvc.perform(open("/now")).andExpect(content().string(not(containsString("/tickets/" + id + "/put-away"))));
        assertThat(after(31).mayBePutAway(clock.instant())).isTrue();
        long before = clock.instant().minus(Duration.ofDays(31)).toEpochMilli();
        transaction.executeWithoutResult(status -> jdbc.sql("update run set started_at = ?, ended_at = ? where plate_id in (select plate_id from plate_copy where ticket_id = ?)")
                .params(before, before, id).update());
        mvc.perform(open("/now")).andExpect(content().string(containsString("/tickets/" + id + "/put-away")));
        mvc.perform(send("/tickets/" + id + "/put-away").param("seen", Seen.of(tickets.ticket(id))).param("from", "/now")).andExpect(redirectedUrl("/now"));
        assertThat(tickets.ticket(id).state()).isEqualTo(TicketState.WITHDRAWN);
        assertThat(outbox.ofTickets(List.of(id)).getFirst().event().fact()).isEqualTo(new Fact.PutAway());
    }
}
