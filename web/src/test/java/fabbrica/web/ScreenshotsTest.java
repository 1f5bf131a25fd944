package fabbrica.web;

import com.microsoft.playwright.Browser;
import com.microsoft.playwright.Locator;
import com.microsoft.playwright.Page;
import com.microsoft.playwright.options.ColorScheme;
import com.microsoft.playwright.options.AriaRole;
import fabbrica.web.floor.Run;
import fabbrica.web.floor.RunFilter;
import fabbrica.web.floor.Runs;
import fabbrica.web.plan.LaidPlate;
import fabbrica.web.plan.Plates;
import fabbrica.web.ticket.TicketState;
import fabbrica.web.ticket.Tickets;
import java.nio.file.Path;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.condition.EnabledIfSystemProperty;
import org.springframework.beans.factory.annotation.Autowired;
import org.springframework.boot.test.web.server.LocalServerPort;
import org.springframework.test.context.TestPropertySource;

/** Takes the pictures of the documentation from demo data, with machines at work; only when asked to. */
@DemoLabTest
@TestPropertySource(properties = {"fabbrica.demo.machines=true", "fabbrica.demo.weeks=11", "fabbrica.data=target/pictured-lab"})
@EnabledIfSystemProperty(named = "screenshots", matches = "true")
class ScreenshotsTest {

    @LocalServerPort
    private int port;
    @Autowired
    private Tickets tickets;
    @Autowired
    private Runs runs;
    @Autowired
    private Plates plates;

    @Test
    void every_main_view_is_pictured() {
        try (InBrowser browser = new InBrowser(port)) {
            Page page = browser.signedIn(new Browser.NewContextOptions().setViewportSize(1280, 800));
            picture(browser, page, "counter", "/counter", "h1");
            picture(browser, page, "ticket-verdict", ticket("bird-large.stl", TicketState.NEW), "h1");
            picture(browser, page, "gauge", ticket("mushroom.stl", TicketState.FAILED), "#findings");
            page.locator("#findings button.pin").first().click();
            page.waitForTimeout(2000);
            page.screenshot(new Page.ScreenshotOptions().setPath(Path.of("../docs/screenshots/gauge.png")));
            picture(browser, page, "now", "/now", "h1");
            page.navigate(browser.at(ticket("planter.stl", TicketState.ACCEPTED)));
            page.locator("#boxes summary").click();
            page.locator("svg.sheet").first().waitFor();
            page.locator("[data-box-add]").click();
            page.locator("[name=boxInfill]").fill("60");
            page.waitForTimeout(4000);
            page.evaluate("document.getElementById('plan').scrollIntoView()");
            page.screenshot(new Page.ScreenshotOptions().setPath(Path.of("../docs/screenshots/ticket-plan.png")));
            trade(browser, page);
            Page hers = browser.signedIn(new Browser.NewContextOptions().setViewportSize(1280, 800), "june", "demo-member");
            picture(browser, hers, "mine", "/mine", "h1");
            picture(browser, page, "floor", "/floor", "h1");
            picture(browser, page, "floor-start", "/floor/start/" + plate("cable-comb.stl"), "h1");
            plate(browser, page);
            picture(browser, page, "stores", "/stores", "h1");
            picture(browser, page, "ledger", "/ledger", "h1");
            picture(browser, page, "reliability", "/ledger/reliability", "h1");
            picture(browser, page, "diagnosis", "/floor/runs/" + runs.runs(new RunFilter("", Run.State.FAILED, null, null, "mushroom"), null, 1).getFirst().id(), "h1");
            picture(browser, page, "board", "/ledger/board", "h1");
            picture(browser, page, "handbook", "/handbook", "h1");
            Page dark = browser.signedIn(new Browser.NewContextOptions().setViewportSize(1280, 800)
                    .setColorScheme(ColorScheme.DARK));
            dark.navigate(browser.at("/floor/plates/" + plate("shelf-bracket.stl")));
            dark.locator("#elsewhere td button").first().waitFor();
            dark.waitForTimeout(4000);
            dark.screenshot(new Page.ScreenshotOptions().setPath(Path.of("../docs/screenshots/floor-plate.png")));
        }
    }

    private String ticket(String model, TicketState state) {
        return "/tickets/" + tickets.inStates(state).stream().filter(each -> each.model().name().equals(model)).findFirst().orElseThrow().id();
    }

    /** The first that waits. */
    private long plate(String model) {
        return plates.inState(LaidPlate.State.QUEUED).stream().filter(each -> each.copies().getFirst().model().equals(model)).mapToLong(LaidPlate::id).min().orElseThrow();
    }

    /** The figure that would be late: its trade table, and its layers with supports. */
    private void trade(InBrowser browser, Page page) {
        page.navigate(browser.at(ticket("lighthouse.stl", TicketState.ACCEPTED)));
        page.getByText("What else could be done?").click();
        page.locator("#trade table.trade").waitFor(new Locator.WaitForOptions().setTimeout(60_000));
        page.waitForCondition(() -> page.locator("#trade progress").count() == 0,
                new Page.WaitForConditionOptions().setTimeout(120_000));
        page.locator("#trade").scrollIntoViewIfNeeded();
        page.evaluate("document.getElementById('trade').scrollIntoView()");
        page.screenshot(new Page.ScreenshotOptions().setPath(Path.of("../docs/screenshots/trade.png")));
        page.navigate(browser.at(ticket("mushroom.stl", TicketState.FAILED)));
        page.locator("summary", new Page.LocatorOptions().setHasText("Plan")).click();
        page.getByText("Recipe:").click();
        page.locator("#supports").selectOption("bed");
        page.waitForTimeout(8000);
        page.getByText("Look through the layers").click();
        page.waitForTimeout(5000);
        page.locator(".filmstrip button").nth(2).click();
        page.waitForTimeout(2000);
        page.screenshot(new Page.ScreenshotOptions().setPath(Path.of("../docs/screenshots/layers.png")));
    }

    /** Parts of three members on one plate, and how each copy ended. */
    private void plate(InBrowser browser, Page page) {
        page.navigate(browser.at("/plates/new?" + Stream.of(ticket("planter.stl", TicketState.ACCEPTED), ticket("key-tag.stl", TicketState.ACCEPTED),
                ticket("cable-comb.stl", TicketState.FAILED)).map(path -> path.replace("/tickets/", "ticket=")).collect(Collectors.joining("&"))));
        page.getByLabel("Printer").selectOption("old");
        page.getByLabel("Spool").selectOption(page.locator("#spool option", new Page.LocatorOptions().setHasText("bottle green")).getAttribute("value"));
        page.getByText("Lay them together").click();
        page.locator("#judged .verdict").waitFor(new Locator.WaitForOptions().setTimeout(60_000));
        page.screenshot(new Page.ScreenshotOptions().setPath(Path.of("../docs/screenshots/plate.png")));
        page.getByText("Put it into the queue").click();
        page.getByText("Start the run…").click();
        page.locator("fieldset input[type=checkbox]").all().forEach(Locator::check);
        page.getByText("Start the run", new Page.GetByTextOptions().setExact(true)).click();
        page.locator("#printer-old").getByText("How did it end?").click();
        page.locator("svg.plate .copy").nth(4).click();
        page.getByRole(AriaRole.CHECKBOX, new Page.GetByRoleOptions().setName("A corner lifted")).check();
        page.evaluate("document.querySelector('.atlas').scrollIntoView({block: 'center'})");
        page.screenshot(new Page.ScreenshotOptions().setPath(Path.of("../docs/screenshots/run-end.png")));
    }

    private static void picture(InBrowser browser, Page page, String name, String path, String part) {
        page.navigate(browser.at(path));
        page.waitForLoadState();
        page.waitForTimeout(4000);
        if (!part.equals("h1")) {
            page.evaluate("part => { const at = document.querySelector(part); at.closest('details.fold')?.setAttribute('open', ''); at.scrollIntoView(); }", part);
            page.waitForTimeout(4000);
        }
        page.screenshot(new Page.ScreenshotOptions().setPath(Path.of("../docs/screenshots", name + ".png")));
    }
}
