package fabbrica.web;

import static com.microsoft.playwright.assertions.PlaywrightAssertions.assertThat;
import static org.assertj.core.api.Assertions.assertThat;

import com.microsoft.playwright.Page;
import fabbrica.core.mesh.model.Shapes;
import org.junit.jupiter.api.Test;
import org.springframework.beans.factory.annotation.Autowired;

/** Whatever somebody stands on with the keyboard, she stands on it still when its place is filled anew; what has its number may say another time. */
@DemoLabTest
class FocusStoryTest extends Story {

    private static final String STEPS = """
            const steps = root => [...document.querySelector(root).querySelectorAll('a[href], button, input, select, summary')]
                .filter(step => step.getClientRects().length && !step.disabled);
            const told = step => [step.tagName, ...step.id ? [step.id] : [step.name, step.value, step.getAttribute('href'), step.textContent.trim()]].join(' | ');
            """;

    @Autowired
    private Steps steps;

    @Test
    void on_what_is_to_be_done_now() {
        page.navigate(browser.at("/now"));
        keepsFocus("#now", "htmx.trigger(document.body, 'floor')");
    }

    @Test
    void on_the_floor() {
        steps.queued(Shapes.box(24, 15, 5), 1, steps.printer(), steps.spool("pla", 800));
        page.navigate(browser.at("/floor"));
        keepsFocus("#floor", "htmx.trigger(document.body, 'floor')");
    }

    @Test
    void on_a_plan_with_all_that_can_be_chosen() {
        page.navigate(browser.at("/tickets/" + steps.accepted(Shapes.box(25, 16, 6), 1)));
        assertThat(page.locator("#estimate-time")).isVisible();
        page.locator("details.others").evaluateAll("all => all.forEach(one => one.open = true)");
        keepsFocus("#preview", "htmx.trigger('#plan-form', 'change')");
    }

    private void keepsFocus(String root, String fillAnew) {
        int count = (Integer) page.evaluate(STEPS + "steps('%s').length".formatted(root));
        assertThat(count).isGreaterThan(5);
        for (int i = 0; i < count; i++) {
            Object before = page.evaluate(STEPS + """
                    const step = steps('%s')[%d];
                    step.focus();
                    document.querySelector('%s').dataset.before = 'yes';
                    %s;
                    told(step);""".formatted(root, i, root, fillAnew));
            page.waitForFunction("root => document.querySelector(root) && !document.querySelector(root).dataset.before", root,
                    new Page.WaitForFunctionOptions().setTimeout(60_000));
            page.waitForFunction("() => document.activeElement !== document.body", null, new Page.WaitForFunctionOptions().setTimeout(60_000));
            // Until what came has settled nothing listens for what is asked of it next.
            page.waitForFunction("() => !document.querySelector('.htmx-request, .htmx-swapping, .htmx-added, .htmx-settling')", null,
                    new Page.WaitForFunctionOptions().setTimeout(60_000));
            assertThat(page.evaluate(STEPS + "told(document.activeElement)")).asString().contains(" | ").isEqualTo(before);
        }
    }
}
