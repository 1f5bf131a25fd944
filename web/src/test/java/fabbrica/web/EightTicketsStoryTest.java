package fabbrica.web;

import static com.microsoft.playwright.assertions.PlaywrightAssertions.assertThat;
import static org.assertj.core.api.Assertions.assertThat;

import com.microsoft.playwright.Browser;
import com.microsoft.playwright.Locator;
import com.microsoft.playwright.Page;
import com.microsoft.playwright.options.AriaRole;
import com.microsoft.playwright.options.FilePayload;
import fabbrica.core.mesh.model.Shapes;
import fabbrica.web.floor.RunEnd.Outcome;
import fabbrica.web.floor.Runs;
import fabbrica.web.plan.LaidPlate.State;
import fabbrica.web.plan.Plates;
import fabbrica.web.ticket.TicketState;
import fabbrica.web.ticket.Tickets;
import java.util.List;
import java.util.stream.Stream;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.springframework.beans.factory.annotation.Autowired;
import org.springframework.context.annotation.Import;
import org.springframework.test.context.TestPropertySource;

/**
 * Eight tickets at a rush hour, from the files to the members' hands: a member hands two in and answers a question, the coordinator takes
 * six more over the counter and plans all, a helper with a phone starts, clears and hands out.
 */
@DemoLabTest
@Import(Steps.class)
@TestPropertySource(properties = "fabbrica.data=target/eight-lab")
class EightTicketsStoryTest extends Story {

    private static final int EIGHT = 8;
    private static final int ACTIONS_TO_QUEUED = 8;
    /** Open, accept, queue, and back to the Counter; one more for the question. */
    private static final int LOADS_TO_QUEUED = 5;
    /** Of which the checklist before a start has five ticks. */
    private static final int ACTIONS_TO_HANDED_OUT = 11;
    private static final int SCREENS_TO_HANDED_OUT = 6;
    private static final int PHONE = 800;

    @Autowired
    private Plates plates;
    @Autowired
    private Runs runs;
    @Autowired
    private Steps steps;
    @Autowired
    private Tickets tickets;

    private Page hers;
    private Page his;

    @BeforeEach
    void theFloorIsFree() {
        runs.running().forEach(run -> steps.end(run.id(), Outcome.WELL, 30, 5));
        plates.inState(State.QUEUED).forEach(plate -> plates.putBack(plate, "not today", "mira"));
        hers = browser.signedIn(new Browser.NewContextOptions().setViewportSize(1280, 800), "june", "demo-member");
        his = browser.signedIn(new Browser.NewContextOptions().setViewportSize(390, PHONE), "tomas", "demo-helper");
    }

    @Test
    void eight_tickets_go_from_the_files_to_the_members_hands() {
        Tally member = new Tally(hers), coordinator = new Tally(page), helper = new Tally(his);
        long badge = handedIn(member, "badge.stl", 32), stand = handedIn(member, "stand.stl", 34);
        assertThat(member.actions()).as("the member hands in two: %s", member).isLessThanOrEqualTo(2 * 4);
        assertThat(member.moved()).isZero();

        page.navigate(browser.at("/counter"));
        coordinator.act(page.locator("#file"), file -> file.setInputFiles(Stream.of(36, 38, 40, 42, 44, 46).map(width -> box("hook-%d.stl".formatted(width), width))
                .toArray(FilePayload[]::new)));
        assertThat(page.locator("#taking li a")).hasCount(6);
        List<String> six = page.locator("#taking li a").all().stream().map(link -> link.getAttribute("href")).toList();
        for (String ticket : six) {
            Locator link = page.locator(".strip a.whole[href='%s']".formatted(ticket));
            coordinator.act(link, Locator::click);
            coordinator.act(page.getByLabel("Member", new Page.GetByLabelOptions().setExact(true)), name -> name.fill("June Abara"));
            coordinator.act(page.getByLabel("What for"), purpose -> purpose.selectOption("EVERYDAY"));
            coordinator.act(next(page), Locator::click);
            queue(coordinator);
        }
        coordinator.act(page.locator(".strip a.whole[href='/tickets/%d']".formatted(badge)), Locator::click);
        coordinator.act(page.getByLabel("Or not now, because…"), why -> why.fill("Shall the pin hole be 5 mm?"));
        coordinator.act(button("Send back"), Locator::click);
        coordinator.act(page.locator("nav").getByText("Counter"), Locator::click);

        hers.navigate(browser.at("/mine"));
        member.act(hers.locator("#mine a[href='/mine/%d']".formatted(badge)), Locator::click);
        member.act(hers.getByLabel("What you want to say to it"), say -> say.fill("Yes, 5 mm."));
        member.act(hers.getByText("Send it to the lab"), Locator::click);
        assertThat(hers.getByRole(AriaRole.STATUS)).isVisible();

        page.navigate(browser.at("/counter"));
        for (long ticket : new long[] {badge, stand}) {
            coordinator.act(page.locator(".strip a.whole[href='/tickets/%d']".formatted(ticket)), Locator::click);
            coordinator.act(next(page), Locator::click);
            queue(coordinator);
        }
        assertThat(coordinator.actions()).as("the coordinator queues eight: %s", coordinator).isLessThanOrEqualTo(EIGHT * ACTIONS_TO_QUEUED);
        assertThat(coordinator.moved()).as("the coordinator queues eight: %s", coordinator).isZero();
        assertThat(coordinator.loads()).as("the coordinator queues eight: %s", coordinator).isLessThanOrEqualTo(EIGHT * LOADS_TO_QUEUED);

        his.navigate(browser.at("/now"));
        for (int plate = 0; plate < EIGHT; plate++) {
            helper.act(his.getByText("Start…").first(), Locator::click);
            assertThat(his.locator("h1")).containsText("Start ");
            for (Locator check : his.locator("fieldset input[type=checkbox]").all()) {
                helper.act(check, Locator::check);
            }
            helper.act(his.getByText("Start the run"), Locator::click);
            assertThat(his.locator("h1")).hasText("Now");
            helper.act(his.getByText("It has ended…").first(), Locator::click);
            helper.act(his.getByLabel("came out well"), Locator::check);
            helper.act(his.getByText("Write it down").first(), Locator::click);
            assertThat(his.locator("h1")).hasText("Now");
        }
        List<String> all = Stream.concat(six.stream(), Stream.of(badge, stand).map(id -> "/tickets/" + id)).toList();
        for (String ticket : all) {
            int before = helper.actions();
            Locator errand = his.locator(".errand", new Page.LocatorOptions().setHas(his.locator("form[action^='%s/']".formatted(ticket))));
            helper.act(errand.locator("button.next"), Locator::click);
            assertThat(errand).hasCount(0);
            assertThat(his.getByRole(AriaRole.STATUS)).containsText("anded out");
            assertThat(helper.actions() - before).as("handing out is one press").isEqualTo(1);
        }
        assertThat(helper.actions()).as("the helper: %s", helper).isLessThanOrEqualTo(EIGHT * ACTIONS_TO_HANDED_OUT);
        assertThat(helper.moved()).as("the helper: %s", helper).isLessThanOrEqualTo(EIGHT * SCREENS_TO_HANDED_OUT * PHONE);
        assertThat(all).extracting(address -> tickets.ticket(Long.parseLong(address.replace("/tickets/", ""))).state()).containsOnly(TicketState.HANDED_OUT);
    }

    private long handedIn(Tally member, String name, int width) {
        hers.navigate(browser.at("/mine"));
        member.act(hers.locator("#file"), file -> file.setInputFiles(box(name, width)));
        assertThat(hers.locator("h1")).hasText(name);
        member.act(hers.getByLabel("What is it for?"), purpose -> purpose.selectOption("EVERYDAY"));
        member.act(hers.getByText("Keep"), Locator::click);
        assertThat(hers.getByRole(AriaRole.STATUS)).isVisible();
        assertThat(hers.locator("#standing")).containsText("It takes");
        return Long.parseLong(hers.url().replaceAll(".*/", ""));
    }

    /** The step that is next, and back to the counter. */
    private void queue(Tally coordinator) {
        assertThat(next(page)).containsText("Queue it on");
        assertThat(next(page)).isEnabled();
        coordinator.act(next(page), Locator::click);
        assertThat(page.getByRole(AriaRole.STATUS)).containsText("It waits for its printer now.");
        coordinator.act(page.locator("nav").getByText("Counter"), Locator::click);
        assertThat(page).hasURL(browser.at("/counter"));
    }

    private static FilePayload box(String name, int width) {
        return new FilePayload(name, "model/stl", Files3d.stl(Shapes.box(width, 12, 8)));
    }

    private static Locator next(Page page) {
        return page.locator("#next-step");
    }
}
