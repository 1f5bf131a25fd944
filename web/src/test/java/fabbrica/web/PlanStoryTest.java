package fabbrica.web;

import static com.microsoft.playwright.assertions.PlaywrightAssertions.assertThat;
import static org.assertj.core.api.Assertions.assertThat;

import com.microsoft.playwright.Download;
import com.microsoft.playwright.Locator;
import com.microsoft.playwright.options.FilePayload;
import fabbrica.core.gcode.GcodeFile;
import fabbrica.core.gcode.Replay;
import fabbrica.core.gcode.SlicedFileFindings;
import fabbrica.core.mesh.model.Mesh;
import fabbrica.core.mesh.model.Shapes;
import fabbrica.core.motion.Motion;
import fabbrica.core.recipe.BuiltIn;
import fabbrica.core.recipe.Printer;
import fabbrica.core.recipe.Recipe;
import fabbrica.core.recipe.StartingPoint;
import fabbrica.core.toolpath.Toolpath;
import fabbrica.core.units.Progress;
import fabbrica.web.stores.Inventory;
import fabbrica.web.ticket.TicketState;
import fabbrica.web.ticket.Tickets;
import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.io.InputStream;
import java.nio.file.Files;
import java.util.List;
import org.junit.jupiter.api.Test;
import org.springframework.beans.factory.annotation.Autowired;
import org.springframework.test.context.TestPropertySource;

/** From a figure that would be late to the way that makes it, its layers, and the right file instead of a wrong one. */
@DemoLabTest
@TestPropertySource(properties = "fabbrica.data=target/plan-lab")
class PlanStoryTest extends Story {

    @Autowired
    private Tickets tickets;
    @Autowired
    private Inventory inventory;

    @Test
    void a_figure_that_would_be_late_is_ready_in_time_and_gets_the_right_file() throws IOException {
        long id = tickets.inStates(TicketState.ACCEPTED).stream()
                .filter(ticket -> ticket.model().name().equals("lighthouse.stl")).findFirst().orElseThrow().id();
        page.navigate(browser.at("/tickets/" + id));
        assertThat(page.locator("#preview")).containsText("■ too late for");
        button("What else could be done?").click();
        Locator late = page.locator("#trade tr.plan");
        assertThat(late).containsText("■");
        assertThat(page.locator("#trade progress")).hasCount(0,
                new com.microsoft.playwright.assertions.LocatorAssertions.HasCountOptions().setTimeout(120_000));
        assertThat(page.locator("#trade table.trade")).containsText("Ready");
        page.locator("#trade [name=second]").nth(1).check();
        assertThat(page.locator("#difference")).containsText("Where the minutes go");
        button("finest that is ready by then").click();
        assertThat(page.locator("#preview")).containsText("● in time for");

        page.getByText("Look through the layers").click();
        assertThat(page.locator("#where")).containsText("first layer");
        page.locator(".filmstrip button").last().click();
        assertThat(page.locator("#where")).containsText("top");
        page.keyboard().press("ArrowLeft");
        assertThat(page.locator("#where")).not().containsText(": top");
        page.locator("[name=view][value=speed]").check();
        assertThat(page.locator("#scale")).containsText("the fastest on this layer");
        assertThat((Boolean) page.evaluate("() => { const c = document.getElementById('sheet'); const d = c.getContext('2d')"
                + ".getImageData(0, 0, c.width, c.height).data; return d.some(v => v > 0); }")).isTrue();

        page.getByText("Back to where it came from").click();
        String printer = page.locator("[name=printer]:checked").inputValue();
        Download right = page.waitForDownload(() -> page.getByText("File for this printer").click());
        assertThat(right.suggestedFilename()).startsWith("Ticket " + id + ", lighthouse, for ").endsWith(".gcode");
        Printer assigned = inventory.printer(printer).orElseThrow().printer();
        byte[] file = Files.readAllBytes(right.path());
        try (InputStream in = Files.newInputStream(right.path())) {
            assertThat(SlicedFileFindings.of(Replay.of(in, assigned), assigned, BuiltIn.PLA, null)).isEmpty();
        }

        page.getByText("Sliced already?").click();
        page.locator("#sliced").setInputFiles(new FilePayload("from-home.gcode", "text/plain", forAnotherPrinter()));
        button("Check it").click();
        assertThat(page.locator("main")).containsText("■ Not for Door bench");
        assertThat(page.locator("main")).containsText("the file was made for another printer");
        assertThat(page.locator("main")).containsText("It heats the nozzle to 240 °C");
        page.locator("#sliced").setInputFiles(new FilePayload(right.suggestedFilename(), "text/plain", file));
        button("Check it").click();
        assertThat(page.locator("section.strip").first()).containsText("● For " + assigned.name());
        page.getByText("Look through its layers").first().click();
        assertThat(page.locator("#where")).containsText("first layer");
    }

    @Test
    void a_box_drawn_on_the_part_is_printed_its_own_way() {
        long id = tickets.inStates(TicketState.ACCEPTED).stream()
                .filter(ticket -> ticket.model().name().equals("lighthouse.stl")).findFirst().orElseThrow().id();
        page.navigate(browser.at("/tickets/" + id));
        assertThat(page.locator("#estimate-time")).isVisible();
        String before = page.locator("#estimate-time").textContent();
        page.getByText("Boxes on the part").click();
        drag("above", 0.4, 0.2, 0.6, 0.8);
        drag("front", 0.5, 0.3, 0.5, 0.6);
        Locator row = page.locator("table.boxes tbody tr");
        assertThat(row).hasCount(1);
        double from = Double.parseDouble(row.locator("[name=boxFrom]").inputValue());
        assertThat(Double.parseDouble(row.locator("[name=boxTo]").inputValue())).isGreaterThan(from + 5);
        row.locator("[name=boxInfill]").fill("100");
        assertThat(page.locator("#estimate-time")).not().hasText(before);
        page.getByText("Look through the layers").click();
        assertThat(page.locator("#where")).containsText("first layer");
        page.getByText("Back to where it came from").click();
        assertThat(page.locator("svg.sheet rect")).hasCount(2);
        page.getByText("take away").click();
        assertThat(page.locator("svg.sheet rect")).hasCount(0);
        assertThat(page.locator("#estimate-time")).hasText(before);
    }

    /** From one place on a view to another, in parts of its width and height. */
    private void drag(String view, double fromX, double fromY, double toX, double toY) {
        Locator sheet = page.locator("svg.sheet[data-view=%s]".formatted(view));
        sheet.scrollIntoViewIfNeeded();
        com.microsoft.playwright.options.BoundingBox box = sheet.boundingBox();
        page.mouse().move(box.x + fromX * box.width, box.y + fromY * box.height);
        page.mouse().down();
        page.mouse().move(box.x + (fromX + toX) / 2 * box.width, box.y + (fromY + toY) / 2 * box.height);
        page.mouse().move(box.x + toX * box.width, box.y + toY * box.height);
        page.mouse().up();
    }

    /** For a bed of 350 mm and of PETG, out at its far side. */
    static byte[] forAnotherPrinter() {
        Printer large = BuiltIn.printer("large").orElseThrow();
        Recipe recipe = StartingPoint.DAILY_BREAD.recipe(large.nozzle(), large.kinematics());
        Mesh box = Shapes.box(30, 30, 3);
        ByteArrayOutputStream out = new ByteArrayOutputStream();
        try {
            Toolpath lines = Toolpath.of(box, recipe, Progress.IGNORED);
            new GcodeFile(lines, Motion.of(lines, recipe, large, Progress.IGNORED), recipe, large, BuiltIn.PETG, 300, 300,
                    List.of("a friend's")).write(out);
        } catch (IOException e) {
            throw new java.io.UncheckedIOException(e);
        }
        return out.toByteArray();
    }
}
