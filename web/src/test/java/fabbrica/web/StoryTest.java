package fabbrica.web;

import static com.microsoft.playwright.assertions.PlaywrightAssertions.assertThat;
import static org.assertj.core.api.Assertions.assertThat;

import com.microsoft.playwright.Download;
import com.microsoft.playwright.Locator;
import com.microsoft.playwright.Page;
import com.microsoft.playwright.options.AriaRole;
import com.microsoft.playwright.options.FilePayload;
import fabbrica.core.mesh.model.Shapes;
import fabbrica.web.stores.Inventory;
import fabbrica.web.stores.Spools;
import java.io.IOException;
import java.nio.file.Files;
import java.util.List;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.springframework.beans.factory.annotation.Autowired;
import org.springframework.test.context.TestPropertySource;

/** The story at the counter, told in a real browser in a demo lab of its own: a file in, a logged print out. */
@DemoLabTest
@TestPropertySource(properties = "fabbrica.data=target/story-lab")
class StoryTest extends Story {

    @Autowired
    private Inventory inventory;
    @Autowired
    private Spools spools;

    @BeforeEach
    void atTheCounter() {
        page.onRequest(request -> assertThat(request.url()).as("nothing is loaded from outside")
                .startsWith(at("/")));
        page.navigate(at("/"));
        assertThat(page).hasURL(at("/counter"));
    }

    @Test
    void a_members_file_goes_in_and_a_logged_print_comes_out() throws IOException {
        handOver("coat-hook.stl", Files3d.stl(Shapes.extrusion(Shapes.polygon(0, 0, 40, 0, 40, 5, 8, 5, 8, 40, 0, 40),
                30)));
        assertThat(page.locator(".verdict")).containsText("● Prints: 40 × 40 × 30 mm, fits 5 of 5 printers");
        assertThat(page.locator("#promise")).containsText("could start");
        assertThat(page.locator("#measures")).isHidden();
        page.locator(".verdict a").first().click();
        assertThat(page.locator("#measures")).containsText("1.57 × 1.57 × 1.18 in");
        assertThat(page.locator("#measures")).isVisible();
        assertThat(page.locator("svg.drawing text.name")).hasCount(3);

        takeIn();
        refuseWhatCannotBe();
        planAndQueue();
        failAndRetry();

        page.navigate(at("/ledger?words=coat-hook"));
        assertThat(page.locator("table tbody tr, table > tr")).hasCount(2);
        assertThat(page.locator("main")).containsText("2 runs, 1 failed (50 %)");
        Download csv = page.waitForDownload(() -> page.getByText("All of these as CSV").click());
        assertThat(Files.readString(csv.path())).startsWith("run,plate,tickets,model,member").contains("coat-hook.stl",
                ",failed,", ",done,", "came-off");
    }

    private void takeIn() {
        button("Accept").click();
        assertThat(page.getByRole(AriaRole.ALERT)).containsText("Choose what the print is for.");
        page.getByLabel("What for").selectOption("EVERYDAY");
        page.getByLabel("Needed by").fill("2001-01-01T10:00");
        button("Accept").click();
        assertThat(page.getByRole(AriaRole.ALERT)).containsText("The needed-by moment lies in the past.");
        page.getByLabel("Needed by").fill("2099-01-01T10:00");
        page.getByLabel("Member", new Page.GetByLabelOptions().setExact(true)).fill("Wanda Ostrel");
        page.getByLabel("Colour wished for").fill("bottle green");
        page.getByLabel("Notes of its designer").fill("no supports needed");
        button("Accept").click();
        assertThat(page.getByRole(AriaRole.ALERT)).containsText("There is no member “Wanda Ostrel”.");
        assertThat(page.getByLabel("Notes of its designer")).hasValue("no supports needed");
        page.getByText("Somebody new?").click();
        page.getByLabel("new member").check();
        page.getByLabel("is a minor").check();
        button("Accept").click();
        assertThat(page.getByRole(AriaRole.ALERT)).containsText("Wanda Ostrel is a minor: name the grown-up");
        page.getByLabel("Grown-up who answers for a minor").fill("Pell Ostrel");
        button("Accept").click();
        assertThat(page.getByRole(AriaRole.STATUS)).containsText("Accepted.");
        page.waitForLoadState();
        assertThat(page.locator("main")).containsText("has no badge for any printer");
    }

    private void refuseWhatCannotBe() {
        choose("Door bench");
        page.getByLabel("Rough cut").check();
        assertThat(page.locator("#layerHeight")).hasValue("0.26");
        page.getByText("Recipe:").click();
        page.locator("#layerHeight").fill("0.35");
        assertThat(page.locator("#preview")).containsText("outside the 0.4 mm nozzle's window (0.08 to 0.28 mm)");
        assertThat(queueButton()).isDisabled();
        page.locator("#layerHeight").fill("thick");
        assertThat(page.locator("#preview")).containsText("Layer height takes a number; “thick” was given.");
        page.getByLabel("Daily bread").check();
        assertThat(page.locator("#layerHeight")).hasValue("0.2");
        assertThat(page.locator("#preview")).containsText("g short: 6 g left");
        assertThat(page.locator("#preview")).containsText("abrasive and the nozzle of Door bench is not hardened");
    }

    private void planAndQueue() {
        choose("Window bench");
        assertThat(page.locator("#next-step")).hasText("Queue it on Window bench");
        Locator time = page.locator("#estimate-time");
        assertThat(time).isVisible();
        String everyday = time.textContent();
        assertThat(page.locator("#recipe")).hasAttribute("open", "");
        page.locator("#infill").fill("60");
        assertThat(time).not().hasText(everyday);
        assertThat(page.locator("#preview")).containsText("in time for");
        assertThat(queueButton()).isEnabled();
        queueButton().click();
        assertThat(page.getByRole(AriaRole.STATUS)).containsText("It waits for its printer now.");
    }

    private void failAndRetry() {
        long green = spools.shelf().stream().filter(spool -> spool.spool().colour().equals("bottle green")).findFirst()
                .orElseThrow().id();
        double before = spools.spool(green).orElseThrow().spool().remainingG();
        String ticket = page.url();

        start(ticket);
        page.getByLabel("failed").check();
        page.getByLabel("Real time").fill("21");
        page.getByLabel("Plastic used").fill("1.5");
        button("Write it down").click();
        assertThat(page.getByRole(AriaRole.ALERT)).containsText("Say what went wrong");
        page.getByRole(AriaRole.CHECKBOX, new Page.GetByRoleOptions().setName("Came off the bed")).check();
        page.getByLabel("Cause, as far as known").fill("dirty plate");
        page.getByLabel("Photo, if you like").setInputFiles(new FilePayload("plate.png", "image/png",
                page.screenshot()));
        button("Write it down").click();
        assertThat(page.locator("#runs")).containsText("Came off the bed");
        assertThat(page.locator("#runs img.photo")).isVisible();

        button("Try again with everything kept").click();
        assertThat(page.getByRole(AriaRole.STATUS)).containsText("queued again with everything kept");
        start(ticket);
        page.getByLabel("came out well").check();
        page.getByLabel("Real time").fill("125");
        page.getByLabel("Plastic used").fill("9.5");
        button("Write it down").click();
        unfold("Floor");
        assertThat(page.locator("#runs")).containsText("● came out well");
        assertThat(page.locator("#runs")).containsText("% over");
        assertThat(spools.spool(green).orElseThrow().spool().remainingG()).isCloseTo(before - 11,
                org.assertj.core.api.Assertions.within(1e-6));
        assertThat(page.locator("#next-step")).containsText("paid");
        page.locator("#next-step").click();
        assertThat(page.locator("main")).containsText("Paid and handed out");
    }

    /** Starts the ticket's run from the Floor and goes on to its report. */
    private void start(String ticket) {
        page.navigate(ticket);
        page.locator("#next-step").click();
        assertThat(page.locator("main")).containsText("The maker's manual, the rules of this lab");
        button("Start the run").click();
        assertThat(page.getByRole(AriaRole.ALERT)).containsText("Tick every line once it is true");
        for (Locator check : page.locator("fieldset input[type=checkbox]").all()) {
            check.check();
        }
        button("Start the run").click();
        assertThat(page).hasURL(at("/floor"));
        Locator bench = page.locator("section.strip", new Page.LocatorOptions().setHasText("coat-hook.stl"));
        assertThat(bench).containsText("coat-hook.stl");
        assertThat(bench).containsText("warming up, by the clock");
        assertThat(bench).containsText("until");
        bench.getByText("How did it end?").click();
    }

    @Test
    void what_cannot_be_read_is_refused_in_place_and_an_archive_is_sorted() {
        handOver("torn.stl", new byte[200]);
        assertThat(page.locator("#notice")).containsText("The header announces 0 triangles");
        assertThat(page).hasURL(at("/counter"));
        handOver("pair.zip", Files3d.zip("left.stl", Files3d.stl(Shapes.box(30, 10, 10)), "photo.png", new byte[9],
                "right.stl", Files3d.stl(Shapes.box(2, 1, 1))));
        assertThat(page.locator("main")).containsText("Several models came in one archive.");
        page.getByRole(AriaRole.CHECKBOX, new Page.GetByRoleOptions().setName("left.stl")).uncheck();
        button("Take in what is ticked").click();
        assertThat(page.locator(".verdict")).containsText("◆ Prints with care: 2 × 1 × 1 mm, the unit is doubtful");
        unfold("Gauge");
        button("Read it in inches").click();
        assertThat(page.locator(".verdict")).containsText("● Prints: 50.8 × 25.4 × 25.4 mm");
        page.getByLabel("Or not now, because…").fill("too small a reason");
        button("Send back").click();
        unfold("History");
        assertThat(page.locator("#history")).containsText("sent back: too small a reason");
        page.navigate(at("/counter"));
        assertThat(page.locator("main")).containsText("pair.zip");
    }

    @Test
    void everything_works_on_a_phone_and_by_keyboard() {
        page.setViewportSize(360, 740);
        for (String place : List.of("/counter", "/tickets/45", "/tickets/42", "/floor", "/stores", "/ledger",
                "/handbook", "/members")) {
            page.navigate(at(place));
            assertThat(page.getByText("Measuring the part")).hasCount(0);
            assertThat((Integer) page.evaluate("document.documentElement.scrollWidth")).as(place + " is not wider")
                    .isLessThanOrEqualTo(360);
        }
        page.keyboard().press("?");
        assertThat(page.locator("dialog#keys")).isVisible();
        page.keyboard().press("Escape");
        page.keyboard().press("g");
        page.keyboard().press("f");
        assertThat(page).hasURL(at("/floor"));
    }

    private void handOver(String name, byte[] content) {
        page.navigate(at("/counter"));
        page.locator("#file").setInputFiles(new FilePayload(name, "application/octet-stream", content));
    }

    private Locator queueButton() {
        return page.locator("#next-step");
    }

    private String at(String path) {
        return browser.at(path);
    }
}
