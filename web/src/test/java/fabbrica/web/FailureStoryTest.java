package fabbrica.web;

import static com.microsoft.playwright.assertions.PlaywrightAssertions.assertThat;
import static org.assertj.core.api.Assertions.assertThat;

import com.microsoft.playwright.APIResponse;
import com.microsoft.playwright.Locator;
import com.microsoft.playwright.Page;
import com.microsoft.playwright.options.AriaRole;
import fabbrica.core.mesh.model.Shapes;
import fabbrica.core.recipe.Adhesion;
import fabbrica.web.floor.Runs;
import fabbrica.web.plan.Plates;
import fabbrica.web.platform.Moments;
import java.nio.charset.StandardCharsets;
import java.time.format.DateTimeFormatter;
import java.util.Locale;
import org.junit.jupiter.api.Test;
import org.springframework.beans.factory.annotation.Autowired;

/** A run fails, why is found out, one thing is changed, the next try ends well, and the next promise knows more. */
@DemoLabTest
class FailureStoryTest extends Story {

    @Autowired
    private Steps steps;
    @Autowired
    private Plates plates;
    @Autowired
    private Runs runs;
    @Autowired
    private Moments moments;

    @Test
    void a_failed_run_is_described_from_the_atlas_one_change_is_proposed_and_what_the_retry_took_is_learned_and_reported() {
        String printer = steps.printer();
        long spool = steps.spool("pla", 800), first = steps.queued(Shapes.box(5, 5, 60), 1, printer, spool), run = steps.started(first);
        page.navigate(browser.at("/floor/runs/%d/end".formatted(run)));
        page.getByLabel("failed").check();
        page.getByLabel("Real time").fill("25");
        page.getByLabel("Plastic used").fill("0.5");
        Locator tile = page.locator(".atlas > div", new Page.LocatorOptions().setHasText("Came off the bed"));
        assertThat(tile.locator(".where")).isHidden();
        tile.getByRole(AriaRole.CHECKBOX).check();
        assertThat(tile.locator("select")).hasValue("BOTTOM");
        tile.getByLabel("height in mm").fill("31");
        button("Write it down").click();
        assertThat(page.locator("#runs")).containsText("Came off the bed, at 31 mm");

        page.getByText("Why, and what to change").click();
        Locator why = page.locator("#diagnosis");
        assertThat(why).containsText("too little of it on the bed");
        assertThat(why).containsText("contact 25 mm² for 60 mm of height");
        assertThat(why).containsText("Change one thing: a brim");
        button("Try again with that").click();
        assertThat(page.getByRole(AriaRole.STATUS)).containsText("queued again with one change: a brim");
        long second = Long.parseLong(page.url().substring(page.url().lastIndexOf('/') + 1));
        assertThat(plates.plate(second).plan().recipe()).isEqualTo(plates.plate(first).plan().recipe().with(Adhesion.BRIM));

        page.navigate(browser.at("/floor/start/" + second));
        assertThat(page.locator("main")).containsText("no run of this printer has taught it yet");
        for (Locator check : page.locator("fieldset input[type=checkbox]").all()) {
            check.check();
        }
        button("Start the run").click();
        assertThat(page).hasURL(browser.at("/floor"));
        long again = runs.running().stream().filter(each -> each.plateId() == second).findFirst().orElseThrow().id();
        page.navigate(browser.at("/floor/runs/%d/end".formatted(again)));
        page.getByLabel("came out well").check();
        page.getByLabel("Real time").fill("60");
        button("Write it down").click();
        assertThat(page.getByRole(AriaRole.STATUS)).containsText("Written down");
        page.navigate(browser.at("/floor/runs/%d".formatted(again)));
        assertThat(page.locator("#diagnosis .tries")).containsText("Try 1, run %d".formatted(run));
        assertThat(page.locator("#diagnosis .tries")).containsText("a brim");
        assertThat(page.locator("main")).containsText("1 h, by the clock");

        long third = steps.queued(Shapes.box(20, 20, 6), 1, printer, spool);
        page.navigate(browser.at("/floor/start/" + third));
        assertThat(page.locator("main")).containsText("learned from one run of this printer");
        assertThat(plates.plate(third).promise().earliestS()).isLessThan(plates.plate(third).promise().totalS());

        page.navigate(browser.at("/ledger"));
        page.getByText("Report for the board").click();
        assertThat(page.locator("main h1")).containsText("What the printers did in " + DateTimeFormatter.ofPattern("MMMM yyyy", Locale.ENGLISH).format(moments.today()));
        assertThat(page.locator(".summary")).containsText("of plastic");
        Locator machine = page.locator("tr", new Page.LocatorOptions().setHasText("Test bench"));
        assertThat(machine).hasCount(1);
        assertThat(page.locator("tr", new Page.LocatorOptions().setHasText("In prints that failed"))).hasCount(1);
        APIResponse pdf = page.request().get(browser.at(page.getByText("As PDF").getAttribute("href")));
        assertThat(pdf.status()).isEqualTo(200);
        assertThat(new String(pdf.body(), 0, 5, StandardCharsets.US_ASCII)).isEqualTo("%PDF-");
    }
}
