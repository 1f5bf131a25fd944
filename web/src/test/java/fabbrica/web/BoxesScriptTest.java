package fabbrica.web;

import static com.microsoft.playwright.assertions.PlaywrightAssertions.assertThat;
import static org.assertj.core.api.Assertions.assertThat;

import com.microsoft.playwright.Locator;
import java.util.List;
import java.util.stream.Collectors;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;

/** A part of 20 × 10 × 5 mm seen from above and from the front, at twenty points a millimetre. */
class BoxesScriptTest extends Stage {

    private static final List<String> SIDES = List.of("boxLeft", "boxRight", "boxFront", "boxBack", "boxFrom", "boxTo");

    @BeforeEach
    void part() {
        play("<script type=\"module\" src=\"/boxes.js\"></script>", """
                <details id="boxes" open onchange="document.body.dataset.changes = 1 + Number(document.body.dataset.changes ?? 0)"><summary>boxes</summary>
                  %s%s
                  <table class="boxes"><tbody></tbody></table>
                  <template><table><tbody><tr><td></td><td>%s</td><td><button type="button" data-box-remove>away</button></td></tr></tbody></table></template>
                  <button type="button" data-box-add>add</button></details>
                """.formatted(sheet("above", 10), sheet("front", 5),
                SIDES.stream().map(name -> "<input name=\"%s\" style=\"width: 4em\">".formatted(name)).collect(Collectors.joining())));
    }

    private static String sheet(String view, int height) {
        return """
                <svg class="sheet" data-view="%s" data-width="20" data-height="%d" viewBox="0 -%d 20 %d" style="width: 400px; height: %dpx; max-width: none; max-height: none; padding: 0; border: 0">
                <g transform="scale(1 -1)"><g class="drawn"></g></g></svg>""".formatted(view, height, height, height, 20 * height);
    }

    /** From one place on a view to another, in millimetres from the part's left lower corner there. */
    private void drag(String view, double fromX, double fromY, double toX, double toY) {
        Locator sheet = at("svg[data-view=%s]".formatted(view));
        var box = sheet.boundingBox();
        page.mouse().move(box.x + 20 * fromX, box.y + box.height - 20 * fromY);
        page.mouse().down();
        page.mouse().move(box.x + 10 * (fromX + toX), box.y + box.height - 10 * (fromY + toY));
        page.mouse().move(box.x + 20 * toX, box.y + box.height - 20 * toY);
        page.mouse().up();
    }

    private List<String> row(int number) {
        return SIDES.stream().map(name -> at("tbody tr").nth(number).locator("[name=%s]".formatted(name)).inputValue()).toList();
    }

    private String changes() {
        return at("body").getAttribute("data-changes");
    }

    @Test
    void a_box_drawn_from_above_reaches_through_all_heights_until_they_are_drawn_from_the_front() {
        drag("above", 15, 8, 5, 2);
        assertThat(row(0)).containsExactly("5", "15", "2", "8", "0", "5");
        assertThat(at("svg[data-view=front] rect")).hasAttribute("height", "5");
        assertThat(changes()).isEqualTo("1");
        drag("front", 10, 5, 10, 5);
        assertThat(row(0)).as("a click changes nothing").containsExactly("5", "15", "2", "8", "0", "5");
        at("tbody tr [name=boxFrom]").fill("4,5");
        assertThat(at("svg[data-view=front] rect")).hasAttribute("height", "0.5");
        assertThat(at("svg[data-view=front] rect")).hasAttribute("y", "4.5");
    }

    @Test
    void a_box_is_moved_as_a_whole_by_dragging_it() {
        drag("above", 5, 2, 10, 6);
        drag("above", 7, 4, 9, 5.5);
        assertThat(row(0)).containsExactly("7", "12", "3.5", "7.5", "0", "5");
        drag("front", 9, 2, 9, 3);
        assertThat(row(0)).containsExactly("7", "12", "3.5", "7.5", "1", "6");
        assertThat(at("tbody tr")).hasCount(1);
        assertThat(changes()).isEqualTo("3");
    }

    @Test
    void boxes_are_numbered_chosen_by_their_row_and_taken_away_with_their_drawing() {
        at("[data-box-add]").click();
        assertThat(row(0)).containsExactly("5", "15", "2.5", "7.5", "0", "5");
        drag("above", 1, 1, 3, 2);
        assertThat(at("tbody tr td:first-child")).hasText(new String[] {"1", "2"});
        at("tbody tr").first().locator("[name=boxTo]").focus();
        assertThat(at("svg[data-view=above] rect").first()).hasClass("chosen");
        at("[data-box-remove]").first().click();
        assertThat(row(0)).containsExactly("1", "3", "1", "2", "0", "5");
        at("[data-box-remove]").click();
        assertThat(at("svg.sheet rect")).hasCount(0);
        assertThat(at("table.boxes")).hasClass("boxes none");
        assertThat(changes()).isEqualTo("4");
    }
}
