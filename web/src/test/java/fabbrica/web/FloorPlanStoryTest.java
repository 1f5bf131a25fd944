package fabbrica.web;

import static com.microsoft.playwright.assertions.PlaywrightAssertions.assertThat;
import static org.assertj.core.api.Assertions.assertThat;

import com.microsoft.playwright.Locator;
import com.microsoft.playwright.Mouse;
import com.microsoft.playwright.Page;
import com.microsoft.playwright.assertions.PlaywrightAssertions;
import com.microsoft.playwright.options.AriaRole;
import com.microsoft.playwright.options.BoundingBox;
import fabbrica.core.mesh.model.Shapes;
import fabbrica.web.counter.Groups;
import fabbrica.web.plan.LaidPlate;
import fabbrica.web.plan.Plates;
import fabbrica.web.platform.events.Fact;
import fabbrica.web.platform.events.Outbox;
import fabbrica.web.stores.Inventory;
import fabbrica.web.ticket.Purpose;
import fabbrica.web.ticket.Ticket;
import fabbrica.web.ticket.Tickets;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.springframework.beans.factory.annotation.Autowired;
import org.springframework.test.context.TestPropertySource;

/** Five tickets, three of them of a class, all queued on the slowest printer; one printer breaks. */
@DemoLabTest
@TestPropertySource(properties = "fabbrica.data=target/floor-plan-lab")
class FloorPlanStoryTest extends Story {

    private static final double A_MINUTE_MS = 60_000;

    @Autowired
    private Steps steps;
    @Autowired
    private Groups groups;
    @Autowired
    private Tickets tickets;
    @Autowired
    private Plates plates;
    @Autowired
    private Inventory inventory;
    @Autowired
    private Outbox outbox;
    @Autowired
    private Clock clock;

    private final List<Long> five = new ArrayList<>();
    private Instant deadline = Instant.EPOCH;

    @BeforeEach
    void fiveTickets() {
        PlaywrightAssertions.setDefaultAssertionTimeout(A_MINUTE_MS);
        plates.inState(LaidPlate.State.QUEUED).forEach(plate -> plates.putBack(plate, "not today", "mira"));
        long white = steps.spool("pla", 900), blue = steps.spool("pla", 900);
        for (int i = 0; i < 5; i++) {
            long ticket = steps.accepted(Shapes.box(60 + 6 * i, 50, 25), 1);
            five.add(ticket);
            steps.queue(ticket, "old", i % 2 == 0 ? white : blue);
        }
        deadline = clock.instant().plus(Duration.ofHours(52));
        groups.make("Robotics club", Purpose.EVERYDAY, deadline, five.subList(0, 3).stream().map(tickets::ticket).toList(), "mira");
    }

    @Test
    void the_floor_is_planned_moved_by_hand_published_mended_and_carried_out() {
        page.navigate(browser.at("/floor?span=shift"));
        assertThat(page.locator(".planned")).containsText("wait that no published plan has a place for");
        button("Plan the floor").click();
        Locator planned = page.locator(".planned");
        assertThat(planned).containsText("Draft planned anew, by mira");
        assertThat(planned).not().containsText("A better plan is being looked for");
        readWhy();
        dragAndUndo();
        publish();
        breakAPrinter();
        tickOff();
    }

    private void readWhy() {
        page.locator("#timeline .bar.waits").first().click();
        assertThat(page.locator(".verdict")).containsText("Starts ");
        assertThat(page.locator("#elsewhere")).containsText("What it costs");
        assertThat(page.locator("#elsewhere")).not().containsText("being worked out");
        page.getByText("Back to the Floor").click();
    }

    private Locator bar(long plate) {
        return page.locator("#timeline .bar[data-plate='%d']".formatted(plate));
    }

    private String laneOf(long plate) {
        return (String) bar(plate).evaluate("bar => bar.closest('.lane').dataset.printer");
    }

    private void dragAndUndo() {
        page.navigate(browser.at("/floor?span=shift"));
        long plate = Long.parseLong(page.locator("#timeline .bar.waits").first().getAttribute("data-plate"));
        String before = laneOf(plate), other = before.equals("window") ? "door" : "window";
        BoundingBox from = bar(plate).locator("rect.print").boundingBox(), to = page.locator("#timeline .lane[data-printer='%s'] .ground".formatted(other)).boundingBox();
        page.mouse().move(from.x + from.width / 2, from.y + from.height / 2);
        page.mouse().down();
        page.mouse().move(to.x + 100, to.y + to.height / 2, new Mouse.MoveOptions().setSteps(8));
        assertThat(page.locator("#carried")).containsText("would start");
        page.mouse().up();
        button("Put it there").click();
        assertThat(page.getByRole(AriaRole.STATUS).first()).containsText("In the draft: plate no.");
        assertThat(laneOf(plate)).isEqualTo(other);
        button("Undo").click();
        assertThat(page.getByRole(AriaRole.STATUS).first()).containsText("Taken back.");
        assertThat(laneOf(plate)).isEqualTo(before);

        bar(plate).press(before.equals("door") ? "ArrowDown" : "ArrowUp");
        assertThat(page.locator("#carried")).containsText("would");
        page.keyboard().press("Escape");
        assertThat(page.locator("#carried")).isEmpty();
        assertThat(laneOf(plate)).isEqualTo(before);
    }

    private void publish() {
        page.getByText("What it changes, and publish…").click();
        assertThat(page.locator("main")).containsText("What members are told");
        page.getByRole(AriaRole.BUTTON, new Page.GetByRoleOptions().setName("Publish")).click();
        assertThat(page.getByRole(AriaRole.STATUS).first()).containsText("The plan is published.");
        assertThat(page.locator(".planned")).containsText("All that waits has its place in the published plan.");
        assertThat(five).allSatisfy(ticket -> assertThat(plates.openOf(ticket)).singleElement().extracting(LaidPlate::published).isNotNull());
        classIsInTime();
        assertThat(told()).as("each told once").filteredOn(five::contains).containsExactlyInAnyOrderElementsOf(five);
    }

    private void classIsInTime() {
        assertThat(five.subList(0, 3)).allSatisfy(ticket -> assertThat(plates.openOf(ticket).getFirst().published().handOut()).isBefore(deadline));
    }

    /** The tickets whose members were told by when they can collect them. */
    private List<Long> told() {
        return outbox.latest(100).stream().map(Outbox.Told::event).filter(event -> event.fact() instanceof Fact.Promised).map(event -> event.about().ticket()).toList();
    }

    private void breakAPrinter() {
        String broken = plates.openOf(five.getFirst()).getFirst().plan().printerId(), name = inventory.printer(broken).orElseThrow().name();
        page.navigate(browser.at("/floor/printers/" + broken));
        page.getByLabel("What is wrong with it").fill("smells burnt");
        button("Put it out of order").click();
        assertThat(page.getByRole(AriaRole.STATUS).first()).containsText("is out of order");
        page.navigate(browser.at("/floor"));
        assertThat(page.locator(".planned")).containsText("Draft " + name + " is out of order");
        assertThat(page.locator(".planned")).not().containsText("A better plan is being looked for");
        page.getByText("What it changes, and publish…").click();
        Locator hit = page.locator("tr", new Page.LocatorOptions().setHasText(tickets.ticket(five.getFirst()).model().name())).filter(
                new Locator.FilterOptions().setHasText(name + " is out of order"));
        assertThat(hit.first()).isVisible();
        page.getByRole(AriaRole.BUTTON, new Page.GetByRoleOptions().setName("Publish")).click();
        assertThat(page.getByRole(AriaRole.STATUS).first()).containsText("The plan is published.");
        assertThat(page.locator("#printer-" + broken)).containsText("Nothing waits for it.");
        assertThat(plates.openOf(five.getFirst())).singleElement().satisfies(plate -> assertThat(plate.plan().printerId()).isNotEqualTo(broken));
        classIsInTime();
    }

    private void tickOff() {
        page.navigate(browser.at("/now"));
        Locator presses = page.getByRole(AriaRole.BUTTON, new Page.GetByRoleOptions().setName("Came out well, cleared"));
        assertThat(presses.first()).isVisible();
        int before = presses.count();
        presses.first().click();
        assertThat(presses).hasCount(before - 1);
    }
}
