package fabbrica.web.plan;

import static fabbrica.web.Steps.open;
import static org.assertj.core.api.Assertions.assertThat;

import fabbrica.core.mesh.model.Shapes;
import fabbrica.core.schedule.Schedule.Slot;
import fabbrica.core.units.Spoken;
import fabbrica.web.DemoLabTest;
import fabbrica.web.Steps;
import fabbrica.web.platform.Moments;
import fabbrica.web.ticket.Ticket;
import fabbrica.web.ticket.Tickets;
import java.util.Objects;
import org.junit.jupiter.api.Test;
import org.springframework.beans.factory.annotation.Autowired;
import org.springframework.test.web.servlet.MockMvc;

/** One ticket says one promise, wherever it is spoken of. */
@DemoLabTest
class OutlooksTest {

    @Autowired
    private MockMvc mvc;
    @Autowired
    private Steps steps;
    @Autowired
    private Tickets tickets;
    @Autowired
    private Plates plates;
    @Autowired
    private Forecasts forecasts;
    @Autowired
    private Outlooks outlooks;
    @Autowired
    private Moments moments;

    @Test
    void a_queued_ticket_says_what_its_plate_was_promised_and_when_the_floor_has_it() throws Exception {
        String printer = steps.printer();
        long spool = steps.spool("pla", 800);
        steps.queued(Shapes.box(40, 30, 8), 1, printer, spool);
        long plate = steps.queued(Shapes.box(30, 30, 6), 2, printer, spool);
        Ticket ticket = tickets.ticket(steps.ticketOf(plate));
        Forecasts.Floor floor = forecasts.floor();
        LaidPlate laid = plates.plate(plate);
        Promise promise = Objects.requireNonNull(laid.promise());
        Slot slot = floor.of(laid).orElseThrow();
        Outlook outlook = outlooks.of(ticket, floor.openOf(ticket.id()), floor);
        assertThat(outlook.promise()).startsWith("%s (%s to %s), %s, ".formatted(Spoken.duration(promise.totalS()), Spoken.duration(promise.earliestS()),
                Spoken.duration(promise.latestS()), Spoken.grams(promise.grams())));
        assertThat(outlook.promise()).endsWith("starts %s on Test bench and is handed out by %s".formatted(moments.say(slot.start()), moments.say(slot.handOut())));
        assertThat(outlook.result()).startsWith("Test bench, " + Spoken.duration(promise.totalS()));
        assertThat(outlook.next()).extracting("label", "address", "hint").containsExactly("Start the run…", "/floor/start/" + plate,
                "One plate waits before it on Test bench.");
        String page = mvc.perform(open("/tickets/" + ticket.id())).andReturn().getResponse().getContentAsString();
        assertThat(page).contains(outlook.promise(), outlook.result(), "href=\"/floor/start/" + plate + "\"");
    }

    @Test
    void what_prints_says_until_when_and_its_ticket_asks_how_it_ended() throws Exception {
        long plate = steps.queued(Shapes.box(35, 30, 6), 1, steps.printer(), steps.spool("pla", 800));
        Ticket ticket = tickets.ticket(steps.ticketOf(plate));
        long run = steps.started(plate);
        Forecasts.Floor floor = forecasts.floor();
        Outlook outlook = outlooks.of(tickets.ticket(ticket.id()), floor.openOf(ticket.id()), floor);
        assertThat(outlook.promise()).endsWith("prints on Test bench until " + moments.say(Objects.requireNonNull(plates.plate(plate).until())));
        assertThat(mvc.perform(open("/tickets/" + ticket.id())).andReturn().getResponse().getContentAsString())
                .contains("href=\"/floor/runs/" + run + "/end\"", "How did it end?");
    }
}
