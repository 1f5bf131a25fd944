package fabbrica.web;

import static com.microsoft.playwright.assertions.PlaywrightAssertions.assertThat;
import static org.assertj.core.api.Assertions.assertThat;

import com.microsoft.playwright.Locator;
import com.microsoft.playwright.Page;
import com.microsoft.playwright.options.AriaRole;
import com.microsoft.playwright.options.FilePayload;
import fabbrica.core.mesh.model.Shapes;
import java.util.List;
import org.junit.jupiter.api.Test;
import org.springframework.test.context.TestPropertySource;

/** A class brings its files: twelve pupils, one plate, two copies that fail. Every fill, choice and click is counted. */
@DemoLabTest
@TestPropertySource(properties = "fabbrica.data=target/class-lab")
class ClassStoryTest extends Story {

    private static final List<String> PUPILS = List.of("Aila Brandt", "Benno Kask", "Cleo Farrow", "Dario Wend", "Esme Tollo", "Finn Harrow",
            "Gesa Umland", "Hugo Prim", "Ida Vesper", "Jona Lark", "Kaja Ostby", "Leo Quarry");

    private int actions;

    @Test
    void twelve_pupils_tags_are_printed_on_one_plate_and_what_failed_on_a_second() {
        Object[] parts = new Object[2 * PUPILS.size()];
        for (int i = 0; i < PUPILS.size(); i++) {
            parts[2 * i] = "tag-%02d.stl".formatted(i + 1);
            parts[2 * i + 1] = Files3d.stl(Shapes.box(24 + i % 3, 14 + i % 4, 3));
        }
        page.navigate(browser.at("/counter"));
        act(() -> page.locator("#file").setInputFiles(new FilePayload("class.zip", "application/zip", Files3d.zip(parts))));
        act(() -> page.getByText("A class brought these").click());
        act(() -> page.getByLabel("What for, all of them").selectOption("EVERYDAY"));
        for (int i = 0; i < PUPILS.size(); i++) {
            Locator whose = page.locator("input[name^=member-]").nth(i);
            String pupil = PUPILS.get(i);
            act(() -> whose.fill(pupil));
        }
        act(() -> page.getByLabel("add who is not known yet").check());
        act(() -> page.getByLabel("those are minors").check());
        act(() -> page.getByLabel("Grown-up who answers for them").fill("Pell Orrin"));
        act(() -> button("Accept them and lay them together").click());

        assertThat(page.locator("input[name=ticket]:checked")).hasCount(PUPILS.size());
        act(() -> page.getByLabel("Printer").selectOption("old"));
        String spool = page.locator("#spool option", new Page.LocatorOptions().setHasText("bottle green")).getAttribute("value");
        act(() -> page.getByLabel("Spool").selectOption(spool));
        act(() -> button("Lay them together").click());
        assertThat(page.locator("svg.plate .copy")).hasCount(PUPILS.size());
        act(() -> button("Put it into the queue").click());
        assertThat(page.getByRole(AriaRole.STATUS)).containsText("It waits for its printer now.");
        startIt();

        act(() -> printing().getByText("How did it end?").click());
        for (int copy : new int[] {3, 8}) {
            act(() -> page.locator("svg.plate .copy").nth(copy).click());
        }
        act(() -> page.getByRole(AriaRole.CHECKBOX, new Page.GetByRoleOptions().setName("Came off the bed")).check());
        act(() -> button("Write it down").click());
        assertThat(page.locator("main")).containsText("but for 2 of 12 copies");
        assertThat(page.locator("main td .stops")).hasCount(2);
        act(() -> button("Lay what failed on a plate again").click());
        assertThat(page.locator("svg.plate .copy")).hasCount(2);
        assertThat(page.locator("main")).containsText("waits for its printer");
        assertThat(actions).isLessThan(40);
    }

    /** The plate that is open goes on its printer. */
    private void startIt() {
        act(() -> page.getByText("Start the run…").click());
        assertThat(page.locator("main")).containsText("The maker's manual, the rules of this lab");
        for (Locator check : page.locator("fieldset input[type=checkbox]").all()) {
            act(check::check);
        }
        act(() -> button("Start the run").click());
        assertThat(page).hasURL(browser.at("/floor"));
    }

    private Locator printing() {
        return page.locator("section.strip", new Page.LocatorOptions().setHasText("Old faithful"));
    }

    private void act(Runnable action) {
        action.run();
        actions++;
    }
}
