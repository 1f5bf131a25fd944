package fabbrica.web;

import static com.microsoft.playwright.assertions.PlaywrightAssertions.assertThat;
import static org.assertj.core.api.Assertions.assertThat;

import com.microsoft.playwright.Locator;
import com.microsoft.playwright.Page;
import com.microsoft.playwright.options.AriaRole;
import com.microsoft.playwright.options.FilePayload;
import fabbrica.core.mesh.model.Mesh;
import fabbrica.core.mesh.model.Shapes;
import java.nio.charset.StandardCharsets;
import java.util.List;
import java.util.function.Consumer;
import java.util.regex.Pattern;
import org.junit.jupiter.api.Test;
import org.springframework.test.context.TestPropertySource;

/** A queue at the desk: what each step takes is counted in fills, choices and clicks, and in how far the page has to be moved. */
@DemoLabTest
@TestPropertySource(properties = "fabbrica.data=target/rush-lab")
class RushHourStoryTest extends Story {

    private int actions;

    @Test
    void a_plain_part_goes_from_the_file_to_the_queue_in_eight_actions_without_scrolling() {
        page.navigate(browser.at("/counter"));
        act(page.locator("#file"), file -> file.setInputFiles(stl("shelf-pin.stl", Shapes.box(30, 12, 8))));
        assertThat(next()).hasText("Accept");
        act(page.getByLabel("Member", new Page.GetByLabelOptions().setExact(true)), member -> member.fill("June Abara"));
        act(page.getByLabel("What for"), purpose -> purpose.selectOption("EVERYDAY"));
        act(next(), Locator::click);
        assertThat(next()).containsText("Queue it on");
        assertThat(next()).isEnabled();
        act(next(), Locator::click);
        assertThat(page.getByRole(AriaRole.STATUS)).containsText("It waits for its printer now.");
        assertThat(actions).isLessThanOrEqualTo(8);
        assertThat(page.locator(".verdict")).containsText("starts");
        assertThat(page.locator("#result-plan")).isVisible();
        assertThat(page.locator("#plan-form")).isHidden();
    }

    @Test
    void what_happens_when_is_told_by_a_strip_and_leaves_the_plan_around_it_as_it_is() {
        handOver(stl("peg.stl", Shapes.box(32, 12, 8)));
        page.getByLabel("Member", new Page.GetByLabelOptions().setExact(true)).fill("June Abara");
        page.getByLabel("What for").selectOption("EVERYDAY");
        next().click();
        assertThat(next()).containsText("Queue it on");
        assertThat(page.locator("#times")).isVisible();
        page.locator("#times summary").click();
        assertThat(page.locator("#times svg.course")).isVisible();
        assertThat(page.locator("#times ol")).containsText("first layer, after ");
        assertThat(page.locator("#preview #estimate-time")).isVisible();
        assertThat(next()).isEnabled();
    }

    @Test
    void five_files_dropped_at_once_are_five_tickets_but_for_what_cannot_be_read_or_came_before() {
        FilePayload clip = stl("clip.stl", Shapes.box(31, 12, 8));
        handOver(clip);
        page.navigate(browser.at("/counter"));
        page.locator("#file").setInputFiles(new FilePayload[] {stl("a.stl", Shapes.box(11, 12, 8)), stl("b.stl", Shapes.box(12, 12, 8)),
                new FilePayload("torn.stl", "model/stl", new byte[200]), clip, stl("c.stl", Shapes.box(13, 12, 8))});
        Locator lines = page.locator("#taking li");
        assertThat(lines.locator("progress")).hasCount(0);
        assertThat(lines).hasCount(5);
        assertThat(lines.nth(0)).containsText("a.stl ● ticket no.");
        assertThat(lines.nth(1)).containsText("b.stl ● ticket no.");
        assertThat(lines.nth(2)).containsText("torn.stl ■ The header announces 0 triangles");
        assertThat(lines.nth(3)).containsText("clip.stl ◆ to be sorted");
        assertThat(lines.nth(4)).containsText("c.stl ● ticket no.");
        assertThat(page.locator("#to-decide .strip", new Page.LocatorOptions().setHasText("c.stl"))).isVisible();
        lines.nth(3).locator("a").click();
        assertThat(page.locator("main")).containsText("the same file as ticket no.");
        button("Make another ticket").click();
        assertThat(page.locator("h1")).hasText("clip.stl");
        assertThat(next()).hasText("Accept");
    }

    @Test
    void what_a_part_asks_for_is_in_its_plan_and_one_click_takes_it_out_again() {
        handOver(stl("stool.stl", Shapes.revolution(new double[] {0, 0, 15, 0, 15, 20, 25, 20, 25, 25, 0, 25}, 60)));
        assertThat(page.getByText("It is turned when it is accepted.")).hasCount(1);
        page.getByLabel("Member", new Page.GetByLabelOptions().setExact(true)).fill("June Abara");
        page.getByLabel("What for").selectOption("EVERYDAY");
        next().click();
        assertThat(page.getByRole(AriaRole.STATUS)).containsText("turned as advised");
        assertThat(page.locator("#preview")).containsText("● turned as advised");
        button("undo").click();
        assertThat(page.getByRole(AriaRole.STATUS)).containsText("It lies as it was drawn.");
        Locator supports = page.locator(".advised", new Page.LocatorOptions().setHasText("Supports:"));
        assertThat(supports).containsText("● put in as advised Supports: from the bed only");
        assertThat(page.locator("#recipe-line")).containsText("supports from the bed only");
        supports.getByRole(AriaRole.BUTTON).click();
        assertThat(supports).containsText("◆ advised");
        assertThat(page.locator("#recipe-line")).containsText("no supports");
        supports.getByRole(AriaRole.BUTTON).click();
        assertThat(supports).containsText("● put in as advised");
    }

    @Test
    void another_printer_gets_the_recipe_that_suits_its_nozzle_and_keeps_what_was_set() {
        handOver(stl("tray.stl", Shapes.box(60, 40, 6)));
        page.getByLabel("Member", new Page.GetByLabelOptions().setExact(true)).fill("June Abara");
        page.getByLabel("What for").selectOption("EVERYDAY");
        next().click();
        choose("Window bench");
        assertThat(page.locator("#layerHeight")).hasValue("0.2");
        page.getByText("Recipe:").click();
        page.locator("#infill").fill("33");
        page.locator("#layerHeight").fill("0.1");
        assertThat(page.locator("#recipe-line")).containsText("0.1 mm layers");
        choose("Long table");
        assertThat(page.locator("#preview")).containsText("◆ Layer height as it was set cannot be laid by this nozzle");
        assertThat(page.locator("#layerHeight")).hasValue("0.3");
        assertThat(page.locator("#infill")).hasValue("33");
        assertThat(next()).hasText("Queue it on Long table");
        assertThat(next()).isEnabled();
    }

    @Test
    void a_ticket_at_rest_is_short_on_a_phone_and_its_next_step_stays_at_the_foot() {
        page.setViewportSize(360, 740);
        for (int ticket : new int[] {40, 42, 43, 47, 48, 54}) {
            page.navigate(browser.at("/tickets/" + ticket));
            assertThat(page.getByText("Measuring the part")).hasCount(0);
            assertThat((Integer) page.evaluate("document.documentElement.scrollHeight")).as("ticket " + ticket).isLessThanOrEqualTo(2000);
            page.evaluate("scrollTo(0, 600)");
            for (Locator step : page.locator("#next-step").all()) {
                assertThat(step).isInViewport();
            }
        }
    }

    /** Chromium writes the objects of pages into the file as they are. */
    @Test
    void a_label_is_one_page_of_62_by_29_millimetres() {
        for (String label : List.of("/tickets/43/label", "/stores/spools/1/label")) {
            page.navigate(browser.at(label));
            String pdf = new String(page.pdf(new Page.PdfOptions().setPreferCSSPageSize(true)), StandardCharsets.ISO_8859_1);
            assertThat(Pattern.compile("/MediaBox \\[0 0 ([\\d.]+) ([\\d.]+)]").matcher(pdf).results().map(box -> Math.round(Double.parseDouble(box.group(1)) / 72 * 25.4)
                    + " × " + Math.round(Double.parseDouble(box.group(2)) / 72 * 25.4))).as(label).containsExactly("62 × 29");
        }
    }

    @Test
    void whoever_works_by_keyboard_stays_where_they_are_while_the_plan_changes_around_them() {
        handOver(stl("stool-2.stl", Shapes.revolution(new double[] {0, 0, 15, 0, 15, 20, 25, 20, 25, 26, 0, 26}, 60)));
        page.getByLabel("Member", new Page.GetByLabelOptions().setExact(true)).fill("June Abara");
        page.getByLabel("What for").selectOption("EVERYDAY");
        next().click();
        button("undo").click();
        assertThat(page.getByRole(AriaRole.STATUS)).containsText("It lies as it was drawn.");
        Locator undo = page.locator(".advised", new Page.LocatorOptions().setHasText("Supports:")).getByRole(AriaRole.BUTTON);
        assertThat(undo).hasText("undo");
        assertThat(page.locator("#recipe-line")).containsText("supports from the bed only");
        assertThat(page.locator("#estimate-time")).isVisible();
        undo.press("Enter");
        assertThat(page.locator("#recipe-line")).containsText("no supports");
        assertThat(undo).isFocused();
        choose("Door bench");
        page.getByLabel("Work horse").press("Space");
        assertThat(page.locator("#recipe-line")).containsText("25 % infill");
        assertThat(page.getByLabel("Work horse")).isFocused();
    }

    private void handOver(FilePayload file) {
        page.navigate(browser.at("/counter"));
        page.locator("#file").setInputFiles(file);
        assertThat(page.locator("h1")).hasText(file.name);
    }

    private static FilePayload stl(String name, Mesh mesh) {
        return new FilePayload(name, "model/stl", Files3d.stl(mesh));
    }

    private Locator next() {
        return page.locator("#next-step");
    }

    /** Something that is done where it is seen, without moving the page. */
    private void act(Locator with, Consumer<Locator> action) {
        assertThat(with).isInViewport();
        assertThat(page.evaluate("scrollY")).isEqualTo(0);
        action.accept(with);
        actions++;
    }
}
