package fabbrica.web.ticket;

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
import static org.springframework.test.web.servlet.request.MockMvcRequestBuilders.post;
import static org.springframework.test.web.servlet.result.MockMvcResultMatchers.content;
import static org.springframework.test.web.servlet.result.MockMvcResultMatchers.redirectedUrl;

import fabbrica.core.estimate.Tariff;
import fabbrica.core.mesh.model.Shapes;
import fabbrica.core.recipe.Plate;
import fabbrica.core.units.Money;
import fabbrica.web.DemoLabTest;
import fabbrica.web.Steps;
import fabbrica.web.account.Member;
import fabbrica.web.account.Members;
import fabbrica.web.account.Role;
import fabbrica.web.floor.RunEnd;
import fabbrica.web.plan.Plates;
import fabbrica.web.platform.Inspections;
import fabbrica.web.platform.Refusal;
import fabbrica.web.platform.Seen;
import fabbrica.web.platform.events.Event;
import fabbrica.web.stores.Inventory;
import fabbrica.web.stores.Lab;
import fabbrica.web.ticket.Ticket.Request;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Set;
import java.util.UUID;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.springframework.beans.factory.annotation.Autowired;
import org.springframework.test.web.servlet.MockMvc;

/** One price for a ticket, from the plan to the receipt. */
@DemoLabTest
class ChargesTest {

    @Autowired
    private MockMvc mvc;
    @Autowired
    private Steps steps;
    @Autowired
    private Tickets tickets;
    @Autowired
    private Charges charges;
    @Autowired
    private Members members;
    @Autowired
    private Inventory inventory;
    @Autowired
    private Plates plates;
    @Autowired
    private Inspections inspections;

    private Lab before;
    private String printer;
    private long spool;
    private long member;

    /** Ten cents a gram, nothing else; above two somebody is asked. */
    @BeforeEach
    void tariff() {
        before = inventory.lab();
        Tariff tariff = new Tariff(0, 0.1, 0, 0, 0, 0, 0, 0, 0, 0, 0, 0, 0.01, 2, Map.of());
        inventory.change(before, new Lab(before.name(), before.currency(), before.zone(), before.limitMb(), tariff, before.policy(), before.keeping(), before.round()), "mira");
        printer = steps.printer();
        spool = steps.spool("pla", 900);
        member = members.add(new Member(0, "Paying member " + UUID.randomUUID(), false, "", "", "", Set.of()), "mira");
    }

    @AfterEach
    void asBefore() {
        inventory.change(inventory.lab(), before, "mira");
    }

    private Ticket accepted(double width, int quantity) {
        long id = steps.taken(Shapes.box(width, 20, 6));
        tickets.accept(tickets.ticket(id), new Request(member, Purpose.EVERYDAY, null, "", "", quantity, "", ""), "mira");
        return tickets.ticket(id);
    }

    private double grams(long plate) {
        return Objects.requireNonNull(plates.plate(plate).promise()).grams();
    }

    private Money price(long ticket) {
        return Objects.requireNonNull(tickets.ticket(ticket).charge().price());
    }

    private String page(String address, long ticket) throws Exception {
        inspections.of(tickets.ticket(ticket).part());
        return mvc.perform(open(address)).andReturn().getResponse().getContentAsString();
    }

    @Test
    void the_price_stands_the_same_on_quote_ticket_and_hand_out_and_ends_in_a_receipt() throws Exception {
        long id = accepted(20, 1).id(), plate = steps.queue(id, printer, spool);
        Money price = price(id);
        assertThat(price).isEqualTo(Money.of(grams(plate) / 10, before.currency()));
        assertThat(page("/tickets/" + id + "/plans/" + plates.plate(plate).plan().id() + "/quote", id)).contains("<strong id=\"total\">" + price + "</strong>");
        assertThat(page("/tickets/" + id, id)).contains("g, " + price + "; starts");
        steps.end(steps.started(plate), RunEnd.Outcome.WELL, 10, 55);
        assertThat(price(id)).as("whatever it really took").isEqualTo(price);
        assertThat(page("/tickets/" + id, id)).contains("Hand out, %s paid".formatted(price));
        mvc.perform(open("/tickets/" + id + "/receipt")).andExpect(content().string(containsString("Nothing was paid for this ticket yet.")));
        mvc.perform(send("/tickets/" + id + "/hand-out").param("seen", Seen.of(tickets.ticket(id))).param("paid", "on")).andExpect(redirectedUrl("/tickets/" + id));
        assertThat(page("/tickets/" + id + "/receipt", id)).contains("Receipt no. ", price.toString(), "Plastic");
        assertThat(tickets.history(id)).extracting(Event::what).contains(price + " paid", "handed out");
    }

    @Test
    void what_is_handed_out_unpaid_stands_in_the_ledger_until_it_is_paid() throws Exception {
        long id = accepted(21, 1).id(), other = accepted(22, 1).id();
        for (long each : List.of(id, other)) {
            steps.end(steps.started(steps.queue(each, printer, spool)), RunEnd.Outcome.WELL, 10, 2);
            tickets.handOut(tickets.ticket(each), "mira");
        }
        mvc.perform(open("/ledger/money")).andExpect(content().string(containsString("/tickets/" + id + "/pay")));
        mvc.perform(send("/tickets/" + id + "/pay").param("seen", Seen.of(tickets.ticket(id))).param("from", "/ledger/money")).andExpect(redirectedUrl("/ledger/money"));
        mvc.perform(open("/ledger/money")).andExpect(content().string(allOf(not(containsString("/tickets/" + id + "/pay")), containsString("/tickets/" + other + "/pay"))));
        charges.pay(tickets.ticket(other), "mira");
        assertThat(tickets.ticket(other).charge().receipt()).as("receipts follow one another").isEqualTo(Objects.requireNonNull(tickets.ticket(id).charge().receipt()) + 1);
        assertThatThrownBy(() -> charges.pay(tickets.ticket(other), "mira")).hasMessageContaining("nothing to pay");
    }

    @Test
    void above_the_limit_its_member_says_yes_first_and_again_when_it_costs_more() throws Exception {
        Ticket ticket = accepted(60, 8);
        assertThatThrownBy(() -> steps.queue(ticket.id(), printer, spool)).isInstanceOf(Refusal.class).hasMessageContaining("its member has to say yes first");
        assertThat(tickets.ticket(ticket.id()).state()).as("nothing is queued").isEqualTo(TicketState.ACCEPTED);
        assertThat(plates.openOf(ticket.id())).isEmpty();
        mvc.perform(send("/tickets/" + ticket.id() + "/price/ask").param("seen", Seen.of(ticket)).param("coins", "900")).andExpect(redirectedUrl("/tickets/" + ticket.id()));
        assertThat(tickets.ticket(ticket.id()).charge().waits()).isTrue();
        charges.agree(tickets.ticket(ticket.id()), "mira");
        steps.queue(ticket.id(), printer, spool);
        Money price = price(ticket.id());
        assertThat(price.amount().doubleValue()).isBetween(2.0, 9.0);
        Lab lab = inventory.lab();
        inventory.change(lab, new Lab(lab.name(), lab.currency(), lab.zone(), lab.limitMb(), new Tariff(0, 1, 0, 0, 0, 0, 0, 0, 0, 0, 0, 0, 0.01, 2, Map.of()), lab.policy(),
                lab.keeping(), lab.round()), "mira");
        assertThatThrownBy(() -> steps.queue(ticket.id(), printer, spool)).hasMessageContaining("has to say yes first");
        assertThat(price(ticket.id())).isEqualTo(price);
    }

    @Test
    void a_member_says_yes_on_her_own_page() throws Exception {
        long june = members.ofAccount("june").orElseThrow().id();
        long id = steps.taken(Shapes.box(61, 20, 6));
        tickets.accept(tickets.ticket(id), new Request(june, Purpose.EVERYDAY, null, "", "", 1, "", ""), "mira");
        charges.ask(tickets.ticket(id), Money.of(7.2, before.currency()), "mira");
        inspections.of(tickets.ticket(id).part());
        mvc.perform(open("/mine/" + id, "june", Role.MEMBER)).andExpect(content().string(containsString("Is 7.20 EUR all right?")));
        mvc.perform(post("/mine/" + id + "/yes").with(user("june").roles("MEMBER")).with(csrf()).param("seen", Seen.of(tickets.ticket(id)))).andExpect(redirectedUrl("/mine/" + id));
        assertThat(tickets.ticket(id).charge().agreed()).isEqualTo(Money.of(7.2, before.currency()));
        mvc.perform(open("/mine/" + id, "june", Role.MEMBER)).andExpect(content().string(not(containsString("all right?"))));
    }

    @Test
    void on_a_plate_shared_with_others_each_pays_for_its_own_and_what_is_printed_again_is_not_paid_again() {
        Ticket small = accepted(20, 1), large = accepted(40, 1);
        long plate = plates.draft(List.of(small, large), steps.plan(printer, spool).entry(), Plate.Sequence.TOGETHER, "mira").getFirst();
        plates.enqueue(plates.plate(plate), "mira");
        Money both = price(small.id()).plus(price(large.id()));
        assertThat(both.amount().doubleValue()).isCloseTo(grams(plate) / 10, within(0.011));
        assertThat(price(large.id()).amount()).isGreaterThan(price(small.id()).amount());
        Money was = price(small.id());
        steps.end(steps.started(plate), RunEnd.Outcome.FAILED, 10, 2);
        steps.queue(small.id(), printer, spool);
        assertThat(price(small.id())).isEqualTo(was);
    }
}
