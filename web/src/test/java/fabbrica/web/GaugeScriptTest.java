package fabbrica.web;

import static com.microsoft.playwright.assertions.PlaywrightAssertions.assertThat;
import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import com.microsoft.playwright.Locator;
import java.nio.ByteBuffer;
import java.nio.ByteOrder;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import org.junit.jupiter.api.Test;

/**
 * A cube of 20 mm with two findings. It is first seen from 0.7 rad to the left of its right side and 0.45 rad above, and each
 * press of an arrow key goes 0.15 rad on; where the ray through the middle of the picture meets it is worked out by hand.
 */
class GaugeScriptTest extends Stage {

    private static final double SIDE = 20;

    private void gauge() {
        answer("/mesh", mesh());
        play("<script type=\"module\" src=\"/gauge.js\"></script>", """
                <section id="findings"><button class="pin" data-x="20" data-y="10" data-z="10" data-label="a hole">1</button>
                  <button class="pin" data-x="10" data-y="20" data-z="10" data-label="a thin wall">2</button></section>
                <section class="view" id="view" data-mesh="/mesh" hidden>
                  <div class="stage" style="width: 400px"><canvas tabindex="0" style="width: 400px; height: 300px"></canvas></div>
                  <button data-step="-1">before</button><button data-step="1">next</button> <span class="now small"></span>
                  <input type="checkbox" data-tool="hanging" checked><input type="range" data-tool="cut" min="0" max="1" step="0.005" value="1">
                  <button data-tool="measure" aria-pressed="false">measure</button><button data-tool="face" aria-pressed="false">face</button>
                  <form class="face-form" hidden><input name="nx"><input name="ny"><input name="nz"></form></section>
                """);
    }

    private void ready() {
        page.waitForCondition(() -> "true".equals(at("#view").getAttribute("data-ready")));
    }

    /** Counts of corners and triangles, then coordinates, then corners of triangles, little-endian. */
    private static byte[] mesh() {
        float[] corners = new float[24];
        for (int i = 0; i < 8; i++) {
            corners[3 * i] = i % 2 * (float) SIDE;
            corners[3 * i + 1] = i / 2 % 2 * (float) SIDE;
            corners[3 * i + 2] = i / 4 * (float) SIDE;
        }
        int[] triangles = {0, 2, 3, 0, 3, 1, 4, 5, 7, 4, 7, 6, 0, 1, 5, 0, 5, 4, 2, 6, 7, 2, 7, 3, 0, 4, 6, 0, 6, 2, 1, 3, 7, 1, 7, 5};
        ByteBuffer data = ByteBuffer.allocate(8 + 4 * (corners.length + triangles.length)).order(ByteOrder.LITTLE_ENDIAN).putInt(8).putInt(12);
        for (float corner : corners) {
            data.putFloat(corner);
        }
        for (int corner : triangles) {
            data.putInt(corner);
        }
        return data.array();
    }

    /** Where the ray through the middle of the cube, seen from there, meets its surface. */
    private static double[] met(double around, double above) {
        double[] to = {Math.cos(above) * Math.cos(around), Math.cos(above) * Math.sin(around), Math.sin(above)};
        double reach = SIDE / 2 / Math.max(Math.abs(to[0]), Math.max(Math.abs(to[1]), Math.abs(to[2])));
        return new double[] {SIDE / 2 + reach * to[0], SIDE / 2 + reach * to[1], SIDE / 2 + reach * to[2]};
    }

    private void clickTheMiddle() {
        at("canvas").click(new Locator.ClickOptions().setPosition(200, 150));
    }

    @Test
    void the_distance_between_two_places_is_that_on_the_part() {
        gauge();
        ready();
        at("[data-tool=measure]").click();
        assertThat(at(".now.small")).hasText("Point at two places.");
        clickTheMiddle();
        for (int i = 0; i < 10; i++) {
            at("canvas").press("ArrowLeft");
        }
        clickTheMiddle();
        double[] a = met(-0.7, 0.45), b = met(-0.7 - 1.5, 0.45);
        Matcher said = Pattern.compile("([\\d.]+) mm \\(across ([\\d.]+), deep ([\\d.]+), high ([\\d.]+)\\)").matcher(at(".now.small").textContent());
        assertThat(said.matches()).isTrue();
        double[] apart = {Math.abs(a[0] - b[0]), Math.abs(a[1] - b[1]), Math.abs(a[2] - b[2])};
        // Half a point of the picture is about 0.1 mm there.
        assertThat(Double.parseDouble(said.group(1))).isCloseTo(Math.hypot(Math.hypot(apart[0], apart[1]), apart[2]), within(0.2));
        for (int axis = 0; axis < 3; axis++) {
            assertThat(Double.parseDouble(said.group(2 + axis))).isCloseTo(apart[axis], within(0.2));
        }
    }

    @Test
    void a_face_that_is_pointed_at_gives_its_outward_normal_and_another_tool_puts_it_away() {
        gauge();
        ready();
        at("[data-tool=face]").click();
        clickTheMiddle();
        assertThat(at(".face-form")).isVisible();
        assertThat(at("[name=nx]")).hasValue("1");
        assertThat(at("[name=ny]")).hasValue("0");
        assertThat(at("[name=nz]")).hasValue("0");
        at("[data-tool=measure]").click();
        assertThat(at(".face-form")).isHidden();
        assertThat(at("[data-tool=face]")).hasAttribute("aria-pressed", "false");
    }

    @Test
    void through_a_cut_one_points_at_the_underside() {
        gauge();
        ready();
        at("[data-tool=cut]").fill("0.5");
        assertThat(at(".now.small")).hasText("Cut at 10.0 mm; what is solid inside shows plum.");
        at("[data-tool=face]").click();
        for (int i = 0; i < 8; i++) {
            at("canvas").press("ArrowUp");
        }
        clickTheMiddle();
        assertThat(at("[name=nz]")).hasValue("-1");
    }

    @Test
    void findings_are_stepped_through_round_and_each_turns_to_where_it_is_seen() {
        gauge();
        ready();
        assertThat(at(".flag:visible")).hasCount(2);
        at("[data-step='1']").click();
        assertThat(at(".now.small")).hasText("1 of 2: a hole");
        assertThat(at(".flag:visible")).hasCount(1);
        assertThat(at(".flag:visible")).hasText("1");
        assertThat(at(".flag.now")).not().hasClass(Pattern.compile("behind"));
        at("canvas").press("n");
        assertThat(at(".now.small")).hasText("2 of 2: a thin wall");
        assertThat(at("button[aria-current]")).hasText("2");
        at("canvas").press("n");
        assertThat(at(".now.small")).hasText("1 of 2: a hole");
        at("[data-step='-1']").click();
        assertThat(at(".now.small")).hasText("2 of 2: a thin wall");
        for (int i = 0; i < 21; i++) {
            at("canvas").press("ArrowRight");
        }
        assertThat(at(".flag.now")).hasClass(Pattern.compile("behind"));
    }

    @Test
    void without_webgl_or_without_a_mesh_the_view_stays_away() {
        page.addInitScript("if (location.hash !== '#drawn') HTMLCanvasElement.prototype.getContext = () => null");
        gauge();
        assertThat(at("#view")).isHidden();
        assertThat(asked).doesNotContain("GET /mesh");
        answer("/mesh", request -> null);
        page.navigate("http://stage.test/?drawn#drawn");
        page.waitForCondition(() -> asked.contains("GET /mesh"));
        assertThat(at("#view")).isHidden();
    }
}
