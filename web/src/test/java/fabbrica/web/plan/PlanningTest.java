package fabbrica.web.plan;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import fabbrica.core.judge.Obstacle;
import fabbrica.core.mesh.model.Shapes;
import fabbrica.core.recipe.StartingPoint;
import fabbrica.core.trade.TradeTable.Row;
import fabbrica.web.DemoLabTest;
import fabbrica.web.Steps;
import fabbrica.web.ticket.Purpose;
import fabbrica.web.ticket.Ticket;
import fabbrica.web.ticket.Ticket.Request;
import fabbrica.web.ticket.Tickets;
import java.time.temporal.ChronoUnit;
import java.util.List;
import org.junit.jupiter.api.Test;
import org.springframework.beans.factory.annotation.Autowired;

@DemoLabTest
class PlanningTest {

    @Autowired
    private Planning planning;
    @Autowired
    private Tickets tickets;
    @Autowired
    private Steps steps;
    @Autowired
    private Proposals proposals;
    @Autowired
    private Plans plans;
    @Autowired
    private Trade trade;

    @Test
    void a_plan_starts_from_the_purpose_and_the_wishes() {
        long id = steps.taken(Shapes.box(30, 30, 10));
        tickets.accept(tickets.ticket(id), new Request(null, Purpose.DISPLAY, null, "PETG", "smoke", 1, "", ""), "mira");
        PlanEntry plan = planning.proposed(tickets.ticket(id));
        assertThat(plan.start()).isEqualTo(Purpose.DISPLAY.startingPoint());
        assertThat(proposals.wished(tickets.ticket(id)).id()).isEqualTo("petg");
        assertThat(plan.spoolId()).isEqualTo(4);
    }

    @Test
    void every_spool_that_cannot_do_it_says_by_how_much_or_why() throws InterruptedException {
        long nearlyEmpty = steps.spool("pla", 2), wood = steps.spool("pla-wood", 500), abs = steps.spool("abs", 500);
        long good = steps.spool("pla", 500);
        Planning.Preview preview = preview(steps.accepted(Shapes.box(30, 30, 20), 1), "door", good);
        assertThat(reasons(preview, nearlyEmpty)).singleElement().asString().contains("g short: 2 g left");
        assertThat(reasons(preview, wood)).containsExactly("PLA with wood is abrasive and the nozzle of Door bench is not hardened.");
        assertThat(reasons(preview, abs)).containsExactly("ABS needs an enclosed printer.");
        assertThat(reasons(preview, good)).isEmpty();
        assertThat(preview.canQueue()).isTrue();
        assertThat(preview.cost()).isNotNull();
        assertThat(preview.last().orElseThrow().end()).isAfter(preview.first().orElseThrow().start());
    }

    @Test
    void a_part_that_stops_cannot_be_queued_whatever_the_plan() throws InterruptedException {
        long good = steps.spool("pla", 500);
        Planning.Preview holed = preview(steps.accepted(Shapes.without(Shapes.box(30, 30, 20), 1), 1), "door", good);
        assertThat(holed.canQueue()).isFalse();
        assertThat(holed.obstacles()).filteredOn(Obstacle::stops).extracting(Obstacle::cause).contains(Obstacle.Cause.FINDING);
        Planning.Preview large = preview(steps.accepted(Shapes.box(340, 300, 5), 1), "door", good);
        assertThat(large.problem()).startsWith("Door bench: Too large for the bed");
        assertThat(large.printers()).filteredOn(Planning.PrinterOption::possible).isEmpty();
    }

    @Test
    void the_row_of_the_plan_in_the_trade_table_says_what_the_plan_says_of_all_its_plates() throws InterruptedException {
        long id = steps.accepted(Shapes.box(120, 120, 1), 3), spool = steps.spool("pla", 500);
        Planning.Preview preview = preview(id, "door", spool);
        assertThat(preview.plates()).hasSizeGreaterThan(1);
        Row row = trade.standings(tickets.ticket(id), preview.plan(), true).table().rows().getFirst();
        assertThat(row.plates()).isEqualTo(preview.plates().size());
        assertThat(row.expected()).isEqualTo(preview.expected());
        assertThat(row.start()).isCloseTo(preview.first().orElseThrow().start(), within(1, ChronoUnit.MINUTES));
        assertThat(row.ready()).isCloseTo(preview.last().orElseThrow().handOut(), within(1, ChronoUnit.MINUTES));
    }

    private Planning.Preview preview(long id, String printer, long spool) throws InterruptedException {
        Ticket ticket = tickets.ticket(id);
        Plan plan = plans.keep(new PlanEntry(StartingPoint.DAILY_BREAD, steps.everyday(), printer, spool, false));
        Planning.Preview preview = planning.preview(ticket, plan, "test");
        for (int tries = 0; tries < 3000 && preview.working() != null; tries++) {
            Thread.sleep(20);
            preview = planning.preview(ticket, plan, "test");
        }
        return preview;
    }

    private static List<String> reasons(Planning.Preview preview, long spool) {
        return preview.spools().stream().filter(option -> option.spool().id() == spool).findFirst().orElseThrow()
                .obstacles().stream().filter(Obstacle::stops).map(Obstacle::reason).toList();
    }
}
