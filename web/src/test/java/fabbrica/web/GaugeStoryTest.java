package fabbrica.web;

import static com.microsoft.playwright.assertions.PlaywrightAssertions.assertThat;
import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import com.microsoft.playwright.Download;
import com.microsoft.playwright.Locator;
import com.microsoft.playwright.Page;
import com.microsoft.playwright.options.AriaRole;
import com.microsoft.playwright.options.FilePayload;
import fabbrica.core.inspect.Inspection;
import fabbrica.core.mesh.io.ModelFiles;
import fabbrica.core.mesh.io.ModelReading.ReadModel;
import fabbrica.core.mesh.io.ModelSource;
import fabbrica.core.mesh.model.Mesh;
import fabbrica.core.mesh.model.Rotation;
import fabbrica.core.mesh.model.Shapes;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import org.junit.jupiter.api.Test;
import org.springframework.test.context.TestPropertySource;

/** From a broken, wrongly scaled, badly turned file to a clean part, by what the page offers and nothing else. */
@DemoLabTest
@TestPropertySource(properties = "fabbrica.data=target/gauge-lab")
class GaugeStoryTest extends Story {

    @Test
    void a_broken_wrongly_scaled_badly_turned_file_becomes_a_part_that_fits() throws IOException {
        // An L of 60 × 40 × 20 mm drawn in inches, leaning, without one of its triangles.
        Mesh bracket = Shapes.extrusion(Shapes.polygon(0, 0, 60, 0, 60, 8, 8, 8, 8, 40, 0, 40), 20);
        Mesh spoilt = Shapes.without(bracket, 3).scaled(1 / 25.4).turned(new Rotation(0.9, 0.3, 0.2, 0));
        handOver("bracket.stl", Files3d.stl(spoilt));
        assertThat(page.locator(".verdict")).containsText("■ Does not print as it is");
        assertThat(page.locator("#findings")).containsText("The surface is open along 3 edges");

        button("Read it in inches").click();
        assertThat(page.locator("#measures")).containsText("inches at 100 %");
        assertThat(page.locator("#next-step")).hasText("Repair it");
        page.locator("#next-step").click();
        assertThat(page.getByRole(AriaRole.STATUS)).containsText("1 hole filled with 1 triangle");
        assertThat(page.locator("#measures")).containsText("● closed");
        assertThat(page.locator("#findings")).containsText("Turn it another way");

        unfold("Gauge");
        page.locator("#poses").scrollIntoViewIfNeeded();
        page.locator("#poses .pose-card").first().getByRole(AriaRole.BUTTON).click();
        assertThat(page.getByRole(AriaRole.STATUS)).containsText("It lies the new way");
        assertThat(page.locator(".verdict")).containsText("● Prints");
        assertThat(page.locator(".verdict")).containsText("60 × 40 × 20 mm");
        assertThat(page.locator("#findings")).containsText("● Nothing to report.");

        unfold("Gauge");
        page.locator("#scale").fill("400");
        assertThat(page.locator("#rescaled")).containsText("240 × 160 × 80 mm");
        assertThat(page.locator("#rescaled")).containsText("it fits Glass house, Long table");
        page.locator("#scale").fill("8");
        assertThat(page.locator("#rescaled")).containsText("+ comes: Walls down to 0.64 mm, less than two lines");
        button("Measure again").click();
        assertThat(page.locator("#findings")).containsText("it looks drawn in inches");
        unfold("Gauge");
        page.locator("#scale").fill("100");
        button("Measure again").click();
        assertThat(page.locator(".verdict")).containsText("60 × 40 × 20 mm");
        unfold("Gauge");

        Download export = page.waitForDownload(() -> page.getByText("3MF", new Page.GetByTextOptions().setExact(true)).click());
        assertThat(export.suggestedFilename()).startsWith("bracket-ticket-").endsWith(".3mf");
        ReadModel read = (ReadModel) ModelFiles.read(ModelSource.of("export", Files.readAllBytes(export.path())), 1 << 24);
        Inspection exported = Inspection.of(read.mesh());
        assertThat(exported.soundness().watertight()).isTrue();
        assertThat(exported.measures().volumeMm3()).isCloseTo((60 * 8 + 8 * 32) * 20, within(1.0));
        assertThat(exported.bounds().minZ()).isCloseTo(0, within(1e-4));
        assertThat(exported.bounds().minX()).as("in the middle of a bed").isPositive();

        button("Go back to the file as it came").click();
        assertThat(page.locator("#findings")).containsText("The surface is open along 3 edges");
    }

    @Test
    void the_part_turns_in_space_and_its_places_can_be_stepped_through() {
        handOver("two-holes.stl", Files3d.stl(Shapes.without(Shapes.sphere(20, 40, 21), 300, 900)));
        unfold("Gauge");
        Locator view = page.locator("#view");
        page.waitForCondition(() -> "true".equals(view.getAttribute("data-ready")));
        assertThat(page.locator("#findings button.pin")).hasCount(5);
        view.getByLabel("Next place").click();
        assertThat(view.locator(".now.small")).containsText("1 of 5: hole");
        view.locator("canvas").press("n");
        assertThat(view.locator(".now.small")).containsText("2 of 5: hole");
        view.locator("[data-tool=cut]").fill("0.5");
        assertThat(view.locator(".now.small")).containsText("Cut at 20.0 mm");
    }

    @Test
    void sizes_are_taken_between_points_and_a_face_is_laid_down_by_pointing() {
        handOver("post.stl", Files3d.stl(Shapes.box(20, 20, 60)));
        unfold("Gauge");
        Locator view = page.locator("#view");
        page.waitForCondition(() -> "true".equals(view.getAttribute("data-ready")));
        Locator canvas = view.locator("canvas");
        button("Measure between two points").click();
        double middleX = canvas.boundingBox().width / 2, middleY = canvas.boundingBox().height / 2;
        canvas.click(new Locator.ClickOptions().setPosition(middleX, middleY - 30));
        canvas.click(new Locator.ClickOptions().setPosition(middleX, middleY + 30));
        assertThat(view.locator(".now.small")).containsText("mm (across");
        button("Point at a face to lay it down").click();
        canvas.click(new Locator.ClickOptions().setPosition(middleX - 20, middleY));
        button("Lay this face on the bed").click();
        assertThat(page.getByRole(AriaRole.STATUS)).containsText("That face lies on the bed now");
        assertThat(page.locator(".verdict")).containsText("× 20 mm");
    }

    @Test
    void the_report_prints_on_one_page_of_a4() {
        handOver("troubled.stl", Files3d.stl(Shapes.together(Shapes.without(Shapes.sphere(20, 40, 21), 300, 900),
                Shapes.box(30, 20, 0.3).moved(30, 0, 5), Shapes.cone(3, 20, 40, 40).moved(90, 0, 0))));
        unfold("Gauge");
        page.getByText("Report to print").click();
        assertThat(page.locator("main.report")).containsText("■ Does not print as it is");
        String pdf = new String(page.pdf(new Page.PdfOptions().setPreferCSSPageSize(true)), StandardCharsets.ISO_8859_1);
        assertThat(pdf.split("/Type\\s*/Page\\b", -1)).hasSize(2);
        assertThat(pdf).containsPattern("/MediaBox\\s*\\[0 0 (594|595)[.0-9]* (841|842)[.0-9]*\\]");
    }

    @Test
    void bodies_become_tickets_of_their_own_and_without_webgl_the_drawings_tell_all() {
        handOver("pair.stl", Files3d.stl(Shapes.together(Shapes.box(20, 20, 20), Shapes.box(10, 10, 10).moved(40, 0, 0))));
        unfold("Gauge");
        page.onceDialog(dialog -> dialog.accept());
        button("Take the bodies apart").click();
        assertThat(page.getByRole(AriaRole.STATUS)).containsText("The first body stays here");
        assertThat(page.locator(".verdict")).containsText("20 × 20 × 20 mm");
        page.addInitScript("HTMLCanvasElement.prototype.getContext = () => null");
        page.reload();
        unfold("Gauge");
        assertThat(page.locator("svg.drawing")).isVisible();
        assertThat(page.locator("#view")).isHidden();
    }

    private void handOver(String name, byte[] content) {
        page.navigate(browser.at("/counter"));
        page.locator("#file").setInputFiles(new FilePayload(name, "application/octet-stream", content));
        assertThat(page.locator("h1")).hasText(name);
    }
}
