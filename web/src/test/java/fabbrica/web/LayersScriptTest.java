package fabbrica.web;

import static com.microsoft.playwright.assertions.PlaywrightAssertions.assertThat;
import static org.assertj.core.api.Assertions.assertThat;

import java.nio.ByteBuffer;
import java.nio.ByteOrder;
import java.util.Arrays;
import java.util.concurrent.atomic.AtomicBoolean;
import java.util.stream.IntStream;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;

/**
 * Thirty layers of a square of 20 mm: an outer wall along its front, infill along its back, and from the second layer on a
 * travel across its middle.
 */
class LayersScriptTest extends Stage {

    private static final int LAYERS = 30;
    private final AtomicBoolean broken = new AtomicBoolean();

    @BeforeEach
    void print() {
        answer("/layers/outline", """
                {"box": [0, 0, 20, 20], "types": ["outer_wall", "infill", "travel"], "tops": [%s], "seconds": [%s]}
                """.formatted(IntStream.rangeClosed(1, LAYERS).mapToObj("\"%d.0\""::formatted).reduce((a, b) -> a + "," + b).orElseThrow(),
                IntStream.rangeClosed(1, LAYERS).mapToObj("%d.4"::formatted).reduce((a, b) -> a + "," + b).orElseThrow()));
        for (int i = 0; i < LAYERS; i++) {
            byte[] layer = layer(i);
            answer("/layers/" + i, request -> broken.get() ? null : layer);
        }
        answer("/layers/stack", ByteBuffer.allocate(28).order(ByteOrder.LITTLE_ENDIAN).putFloat(20).array());
        play("", """
                <main id="film" data-from="/layers" data-query="printer=door" data-count="%d">
                  <ol class="filmstrip"><li><button data-layer="0"><canvas width="60" height="60"></canvas><strong>first layer</strong></button></li>
                    <li><button data-layer="29"><canvas width="60" height="60"></canvas><strong>top</strong></button></li></ol>
                  <button data-step="-1">before</button><button data-step="1">next</button><button data-play aria-pressed="false">Play</button>
                  <strong id="where"></strong><canvas id="sheet" tabindex="0" style="width: 216px; height: 216px; display: block"></canvas>
                  <input type="range" id="at" min="1" max="%d" value="1">
                  <input type="radio" name="view" value="type" checked><input type="radio" name="view" value="speed"><input type="radio" name="view" value="flow">
                  <button class="callout" data-type="0" aria-pressed="true">wall</button><button class="callout" data-type="1" aria-pressed="true">infill</button>
                  <button class="callout" data-type="2" aria-pressed="false">travel</button>
                  <p id="scale" hidden></p><div><canvas id="space" style="width: 100px; height: 100px"></canvas></div><p id="no-space" hidden>none</p></main>
                <script type="module" src="/layers.js"></script>""".formatted(LAYERS, LAYERS));
        shows(1);
    }

    /** Paths as their kind, whether drawn back, width (mm), speed (mm/s), flow (mm³/s), count of points and the points, little-endian. */
    private static byte[] layer(int number) {
        ByteBuffer data = ByteBuffer.allocate(3 * 40).order(ByteOrder.LITTLE_ENDIAN);
        path(data, 0, 30, 2, 0, 0, 20, 0);
        path(data, 1, 60 + number, 5, 0, 20, 20, 20);
        if (number > 0) {
            path(data, 2, 150, 0, 0, 10, 20, 10);
        }
        return Arrays.copyOf(data.array(), data.position());
    }

    private static void path(ByteBuffer data, int type, float speed, float flow, float... points) {
        data.putInt(type).putInt(0).putFloat(1).putFloat(speed).putFloat(flow).putInt(points.length / 2);
        for (float point : points) {
            data.putFloat(point);
        }
    }

    private void shows(int layer) {
        assertThat(at("#film")).hasAttribute("data-shown", Integer.toString(layer));
    }

    /** Whether anything is drawn half-way along a line at this height on the bed: ten points a millimetre, eight points of room. */
    private boolean drawnAt(double yMm) {
        return (Boolean) page.evaluate("""
                y => { const c = document.getElementById('sheet'), data = c.getContext('2d').getImageData(98, 208 - 10 * y - 4, 20, 8).data;
                  return data.some(value => value > 0); }""", yMm);
    }

    @Test
    void a_layer_is_drawn_to_scale_with_the_front_below_and_travels_only_when_asked_for() {
        page.keyboard().press("ArrowRight");
        shows(2);
        assertThat(drawnAt(0)).as("wall").isTrue();
        assertThat(drawnAt(20)).as("infill").isTrue();
        assertThat(drawnAt(10)).as("travel").isFalse();
        at("[data-type='2']").click();
        page.waitForCondition(() -> drawnAt(10));
        at("[data-type='0']").click();
        page.waitForCondition(() -> !drawnAt(0));
        assertThat(drawnAt(20)).isTrue();
    }

    @Test
    void where_there_is_room_each_kind_of_line_is_named_on_the_drawing_until_it_is_hidden() {
        page.keyboard().press("ArrowRight");
        shows(2);
        assertThat(at("[data-type='0']")).not().hasClass("callout led");
        page.evaluate("document.getElementById('sheet').style.width = '716px'; dispatchEvent(new Event('resize'))");
        assertThat(at("[data-type='0']")).hasClass("callout led");
        assertThat(at("[data-type='1']")).hasClass("callout led");
        assertThat(at("[data-type='2']")).hasClass("callout");
        // The wall lies at the front and the infill at the back: so do their names.
        double wall = Double.parseDouble(at("[data-type='0']").evaluate("each => parseFloat(each.style.top)").toString());
        double infill = Double.parseDouble(at("[data-type='1']").evaluate("each => parseFloat(each.style.top)").toString());
        assertThat(wall).isGreaterThan(infill);
        at("[data-type='0']").click();
        assertThat(at("[data-type='0']")).hasClass("callout");
        at("[data-step='-1']").click();
        shows(1);
        assertThat(at("[data-type='2']")).isHidden();
    }

    @Test
    void keys_slider_and_strip_lead_to_the_same_layer_and_say_where_one_is() {
        assertThat(at("#where")).hasText("layer 1 of 30, top 1.0 mm, 1 s: first layer");
        page.keyboard().press("End");
        assertThat(at("#where")).hasText("layer 30 of 30, top 30.0 mm, 30 s: top");
        page.keyboard().press("ArrowRight");
        shows(30);
        page.keyboard().press("PageDown");
        shows(20);
        assertThat(at("#at")).hasValue("20");
        at("#at").fill("7");
        shows(7);
        at("[data-layer='29']").click();
        shows(30);
        page.keyboard().press("Home");
        shows(1);
        at("[data-step='1']").click();
        shows(2);
    }

    @Test
    void the_next_layers_are_fetched_ahead_and_none_twice() {
        page.waitForCondition(() -> asked.contains("GET /layers/4?printer=door"));
        for (int i = 0; i < 4; i++) {
            page.keyboard().press("ArrowRight");
        }
        shows(5);
        page.waitForCondition(() -> asked.contains("GET /layers/8?printer=door"));
        assertThat(asked).doesNotHaveDuplicates();
    }

    @Test
    void speed_and_flow_are_told_against_the_most_on_the_layer_without_travels() {
        at("[value=speed]").check();
        assertThat(at("#scale")).hasText("Faint is slow, the accent is 60 mm/s, the fastest on this layer.");
        at("#at").fill("30");
        assertThat(at("#scale")).containsText("89 mm/s");
        at("[value=flow]").check();
        assertThat(at("#scale")).containsText("5.0 mm³/s, the most on this layer");
        at("[value=type]").check();
        assertThat(at("#scale")).isHidden();
    }

    @Test
    void playing_goes_to_the_top_and_stops_there() {
        page.keyboard().press("End");
        page.keyboard().press("PageDown");
        shows(20);
        at("[data-play]").click();
        assertThat(at("[data-play]")).hasText("Stop");
        shows(30);
        assertThat(at("[data-play]")).hasText("Play");
        assertThat(at("[data-play]")).hasAttribute("aria-pressed", "false");
    }

    @Test
    void a_layer_that_did_not_come_is_asked_for_again_when_it_is_wanted() {
        broken.set(true);
        at("#at").fill("15");
        shows(15);
        assertThat(drawnAt(0)).isFalse();
        broken.set(false);
        at("#at").fill("1");
        shows(1);
        at("#at").fill("15");
        shows(15);
        assertThat(drawnAt(0)).isTrue();
    }

    @Test
    void small_pictures_of_the_strip_are_drawn_and_outer_walls_stand_in_space() {
        page.waitForCondition(() -> (Boolean) page.evaluate("""
                () => [...document.querySelectorAll('.filmstrip canvas')].every(c => c.getContext('2d').getImageData(0, 0, c.width, c.height).data.some(v => v > 0))"""));
        page.waitForCondition(() -> asked.contains("GET /layers/stack?printer=door"));
        assertThat(at("#space")).isVisible();
        assertThat(at("#no-space")).isHidden();
    }
}
