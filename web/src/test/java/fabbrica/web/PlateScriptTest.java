package fabbrica.web;

import static com.microsoft.playwright.assertions.PlaywrightAssertions.assertThat;

import com.microsoft.playwright.Locator;
import org.junit.jupiter.api.Test;

/** A bed of 200 × 100 mm drawn at two points a millimetre, with a copy of 20 × 10 mm in its middle. */
class PlateScriptTest extends Stage {

    private void plate(boolean draft) {
        plate(draft, "M-10 -5L10 -5L10 5L-10 5Z");
    }

    private void plate(boolean draft, String outline) {
        play("<script type=\"module\" src=\"/plate.js\"></script>", """
                <form id="plate" data-depth="100" data-draft="%s"><input name="place-7-x" value="100"><input name="place-7-y" value="50"><input name="place-7-turn" value="0"></form>
                <select data-copy="7"><option value="WELL" selected>well<option value="FAILED">failed<option value="CANCELLED">cancelled</select>
                <svg class="plate" viewBox="0 0 200 100" style="width: 400px; height: 200px; max-height: none; padding: 0; border: 0">
                  <g class="copy" data-copy="7" data-x="100" data-y="50" data-turn="0" tabindex="0" transform="translate(100 50)"><path d="%s"></path></g></svg>
                <p id="moved" hidden>moved</p>
                """.formatted(draft, outline));
    }

    private void stands(String x, String y, String turn) {
        assertThat(at("[name=place-7-x]")).hasValue(x);
        assertThat(at("[name=place-7-y]")).hasValue(y);
        assertThat(at("[name=place-7-turn]")).hasValue(turn);
    }

    @Test
    void arrow_keys_move_a_copy_by_a_millimetre_or_ten_and_its_form_counts_from_the_front() {
        plate(true);
        Locator copy = at(".copy");
        copy.press("ArrowRight");
        copy.press("ArrowUp");
        stands("101", "51", "0");
        copy.press("Shift+ArrowLeft");
        copy.press("Shift+ArrowDown");
        stands("91", "41", "0");
        assertThat(copy).hasAttribute("transform", "translate(91 59)");
        assertThat(at("#moved")).isVisible();
    }

    @Test
    void r_turns_a_copy_by_fifteen_degrees_either_way_and_never_beyond_a_whole_turn() {
        plate(true);
        at(".copy").press("Shift+R");
        stands("100", "50", "345");
        at(".copy").press("r");
        at(".copy").press("r");
        stands("100", "50", "15");
        assertThat(at(".copy path")).hasAttribute("transform", "translate(0 0) rotate(-15)");
    }

    /** An L of 20 mm with arms of 2 mm: turned by 45° its box reaches from −20 to 2 along one diagonal, so its middle moves by 9/√2 mm. */
    @Test
    void what_has_another_middle_when_it_is_turned_stays_where_it_lies() {
        plate(true, "M-10 -10L10 -10L10 -8L-8 -8L-8 10L-10 10Z");
        for (int i = 0; i < 3; i++) {
            at(".copy").press("r");
        }
        stands("100", "50", "45");
        assertThat(at(".copy path")).hasAttribute("transform", "translate(6.36 0) rotate(-45)");
    }

    @Test
    void a_copy_follows_the_pointer_as_far_as_it_is_dragged_and_then_rests() {
        plate(true);
        var box = at(".copy path").boundingBox();
        double x = box.x + box.width / 2, y = box.y + box.height / 2;
        page.mouse().move(x, y);
        page.mouse().down();
        page.mouse().move(x + 10, y + 5);
        page.mouse().move(x + 40, y - 30);
        page.mouse().up();
        page.mouse().move(x + 90, y + 40);
        stands("120", "65", "0");
    }

    @Test
    void a_plate_that_waits_or_prints_stays_as_it_lies() {
        plate(false);
        at(".copy").press("ArrowRight");
        stands("100", "50", "0");
        assertThat(at("#moved")).isHidden();
    }

    @Test
    void a_copy_that_did_not_come_out_is_touched_or_named_and_the_drawing_says_so() {
        plate(false);
        assertThat(at(".copy")).hasAttribute("data-outcome", "WELL");
        at(".copy").click();
        assertThat(at("select")).hasValue("FAILED");
        assertThat(at(".copy")).hasAttribute("data-outcome", "FAILED");
        at(".copy").press("Enter");
        assertThat(at("select")).hasValue("WELL");
        at("select").selectOption("CANCELLED");
        assertThat(at(".copy")).hasAttribute("data-outcome", "CANCELLED");
    }
}
