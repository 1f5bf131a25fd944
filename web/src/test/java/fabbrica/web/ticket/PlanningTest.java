package fabbrica.web.ticket;

import static org.assertj.core.api.Assertions.assertThat;

import fabbrica.core.mesh.model.Mesh;
import fabbrica.core.mesh.model.Shapes;
import fabbrica.web.DemoLabTest;
import fabbrica.web.Steps;
import fabbrica.web.platform.Standing;
import fabbrica.web.ticket.Ticket.Request;
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
    private PartDrawing drawing;

    @Test
    void a_plan_starts_from_the_purpose_and_the_wishes() {
        long id = steps.taken(Shapes.box(30, 30, 10));
        tickets.accept(tickets.ticket(id), new Request(null, Purpose.DISPLAY, null, "PETG", "smoke", 1, "", ""), "mira");
        Plan plan = planning.start(tickets.ticket(id));
        assertThat(plan.start()).isEqualTo(Purpose.DISPLAY.startingPoint());
        assertThat(planning.wished(tickets.ticket(id)).id()).isEqualTo("petg");
        assertThat(plan.spoolId()).isEqualTo(4);
    }

    @Test
    void every_spool_that_cannot_do_it_says_by_how_much_or_why() throws InterruptedException {
        long nearlyEmpty = steps.spool("pla", 2), wood = steps.spool("pla-wood", 500), abs = steps.spool("abs", 500);
        long good = steps.spool("pla", 500);
        Planning.Preview preview = preview(steps.accepted(Shapes.box(30, 30, 20), 1), "door", good);
        assertThat(reasons(preview, nearlyEmpty)).singleElement().asString().contains("g short: 2 g left");
        assertThat(reasons(preview, wood)).containsExactly("PLA with wood is abrasive and the nozzle is not hardened.");
        assertThat(reasons(preview, abs)).containsExactly("ABS is not allowed on this printer.");
        assertThat(reasons(preview, good)).isEmpty();
        assertThat(preview.canQueue()).isTrue();
        assertThat(preview.cost()).isNotNull();
        assertThat(preview.ready()).isAfter(preview.start());
    }

    @Test
    void a_part_that_stops_cannot_be_queued_whatever_the_plan() throws InterruptedException {
        long good = steps.spool("pla", 500);
        Planning.Preview holed = preview(steps.accepted(Shapes.without(Shapes.box(30, 30, 20), 1), 1), "door", good);
        assertThat(holed.canQueue()).isFalse();
        assertThat(holed.obstacles()).contains("The model has a finding that stops the print; see the verdict.");
        Planning.Preview large = preview(steps.accepted(Shapes.box(340, 300, 5), 1), "door", good);
        assertThat(large.problem()).startsWith("Door bench: Does not fit");
        assertThat(large.printers()).filteredOn(Planning.PrinterOption::possible).isEmpty();
    }

    @Test
    void three_views_with_six_figures_are_drawn() {
        Mesh part = Shapes.box(42, 31, 60);
        String svg = drawing.svg(tickets.ticket(steps.taken(part)).lying(), List.of());
        assertThat(svg).contains(">42<", ">31<", ">60<", "from above", "from the front", "from the right");
        assertThat(svg.split("class=\"tick\"")).hasSize(1 + 12);
    }

    private Planning.Preview preview(long id, String printer, long spool) throws InterruptedException {
        Ticket ticket = tickets.ticket(id);
        Plan plan = new Plan(ticket.startingPoint(), steps.everyday(), printer, spool, false);
        Planning.Preview preview = planning.preview(ticket, plan);
        for (int tries = 0; tries < 500 && preview.standing() instanceof Standing.Working; tries++) {
            Thread.sleep(20);
            preview = planning.preview(ticket, plan);
        }
        return preview;
    }

    private static List<String> reasons(Planning.Preview preview, long spool) {
        return preview.spools().stream().filter(option -> option.spool().id() == spool).findFirst().orElseThrow()
                .reasons();
    }
}
