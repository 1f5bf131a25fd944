package fabbrica.web;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import java.util.List;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;

/** A scene of 10 mm around a place of its own, seen by the camera's place from there. */
class SpaceScriptTest extends Stage {

    private static final double AWAY = 41;

    @BeforeEach
    void scene() {
        play("""
                <script type="module">
                  import { THREE, rendererOf, space } from '/space.js';
                  const canvas = document.querySelector('canvas');
                  window.drawn = 0;
                  window.renderer = rendererOf;
                  const { camera, look } = space(canvas, rendererOf(canvas), { center: new THREE.Vector3(1, 2, 3), radius: 10 }, () => window.drawn++);
                  window.from = () => [camera.position.x - 1, camera.position.y - 2, camera.position.z - 3];
                  window.look = look;
                  look(0, 0);
                  document.body.dataset.ready = 'yes';
                </script>""", "<canvas tabindex=\"0\" style=\"width: 300px; height: 200px\"></canvas>");
        page.waitForCondition(() -> "yes".equals(at("body").getAttribute("data-ready")));
    }

    /** Right, deep and up from what is looked at, in millimetres. */
    @SuppressWarnings("unchecked")
    private double[] from() {
        return ((List<Number>) page.evaluate("from()")).stream().mapToDouble(Number::doubleValue).toArray();
    }

    private void press(String key, int times) {
        for (int i = 0; i < times; i++) {
            at("canvas").press(key);
        }
    }

    @Test
    void a_look_around_and_from_above_stands_the_same_distance_away() {
        assertThat(from()).containsExactly(new double[] {AWAY, 0, 0}, within(1e-6));
        page.evaluate("look(Math.PI / 2, Math.PI / 6)");
        assertThat(from()).containsExactly(new double[] {0, AWAY * Math.sqrt(3) / 2, AWAY / 2}, within(1e-6));
    }

    @Test
    void arrow_keys_turn_it_by_the_same_angle_each_and_stop_before_the_pole() {
        press("ArrowRight", 2);
        assertThat(from()).containsExactly(new double[] {AWAY * Math.cos(0.3), AWAY * Math.sin(0.3), 0}, within(1e-6));
        press("ArrowLeft", 2);
        press("ArrowUp", 20);
        assertThat(from()).containsExactly(new double[] {AWAY * Math.cos(1.5), 0, AWAY * Math.sin(1.5)}, within(1e-6));
        press("ArrowDown", 40);
        assertThat(from()[2]).isCloseTo(-AWAY * Math.sin(1.5), within(1e-6));
    }

    @Test
    void plus_and_minus_come_nearer_and_go_away_within_bounds() {
        press("+", 1);
        assertThat(from()[0]).isCloseTo(AWAY * 0.85, within(1e-6));
        press("+", 40);
        assertThat(from()[0]).isCloseTo(4, within(1e-6));
        press("-", 60);
        assertThat(from()[0]).isCloseTo(120, within(1e-6));
    }

    @Test
    void dragging_turns_it_and_nothing_is_drawn_while_nothing_changes() {
        var box = at("canvas").boundingBox();
        page.mouse().move(box.x + 150, box.y + 100);
        page.mouse().down();
        page.mouse().move(box.x + 100, box.y + 100);
        page.mouse().up();
        double[] dragged = from();
        assertThat(dragged[1]).isNotCloseTo(0, within(1.0));
        assertThat(Math.hypot(dragged[0], dragged[1])).isCloseTo(AWAY, within(1e-6));
        String frames = "() => new Promise(done => requestAnimationFrame(() => requestAnimationFrame(() => done(window.drawn))))";
        int drawn = (Integer) page.evaluate(frames);
        assertThat(drawn).isPositive();
        assertThat(page.evaluate(frames)).isEqualTo(drawn);
    }

    @Test
    void where_nothing_is_drawn_in_space_there_is_no_renderer() {
        assertThat(page.evaluate("""
                () => {
                  const canvas = document.createElement('canvas');
                  canvas.getContext = () => null;
                  return window.renderer(canvas);
                }""")).isNull();
    }
}
