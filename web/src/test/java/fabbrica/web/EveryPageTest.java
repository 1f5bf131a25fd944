package fabbrica.web;

import static org.assertj.core.api.Assertions.assertThat;

import com.deque.html.axecore.playwright.AxeBuilder;
import com.deque.html.axecore.results.Rule;
import com.microsoft.playwright.Browser;
import com.microsoft.playwright.Page;
import com.microsoft.playwright.Response;
import com.microsoft.playwright.options.ColorScheme;
import com.microsoft.playwright.options.ReducedMotion;
import fabbrica.core.mesh.model.Shapes;
import fabbrica.web.counter.Intake;
import fabbrica.web.platform.gate.Access;
import java.io.ByteArrayInputStream;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.List;
import org.junit.jupiter.api.Test;
import org.springframework.beans.factory.annotation.Autowired;
import org.springframework.boot.test.context.SpringBootTest;
import org.springframework.context.annotation.Import;
import org.springframework.http.HttpMethod;

/**
 * Every page for every hand: checked by axe-core (the rules of WCAG 2.2 A and AA, and its best practices) in light and dark, on a desk
 * and on a phone; and nothing on a phone has to be scrolled sideways.
 */
@SpringBootTest(useMainMethod = SpringBootTest.UseMainMethod.ALWAYS, webEnvironment = SpringBootTest.WebEnvironment.RANDOM_PORT,
        properties = {"fabbrica.demo=true", "fabbrica.demo.at=12:30", "fabbrica.data=target/every-page-lab", "fabbrica.mail.every=1h"})
@Import({Steps.class, Examples.class})
class EveryPageTest extends Story {

    private static final List<String> RULES = List.of("wcag2a", "wcag2aa", "wcag21a", "wcag21aa", "wcag22aa", "best-practice");
    private static final List<String> COLOURS = List.of("color-contrast");
    private static final List<String> SERIOUS = List.of("serious", "critical");
    private static final int TAB_STOPS = 10;
    private static final int MOST_OF_THEM = 45;

    @Autowired
    private Examples examples;
    @Autowired
    private Intake intake;

    private final List<String> faults = new ArrayList<>();
    private int looked;

    private static List<String> patterns() {
        return Access.routes().stream().filter(route -> route.method() == HttpMethod.GET && !route.file()).map(route -> route.pattern().getPatternString())
                .filter(pattern -> !pattern.contains("**") && !pattern.contains(".") && !pattern.startsWith("/mine") && !pattern.equals("/live")
                        && !pattern.contains("gcode") && !pattern.equals("/own-data") && !pattern.endsWith("/data") && !pattern.endsWith("/gauge/mesh")
                        && !pattern.endsWith("/stack") && !pattern.endsWith("/{number}") && !pattern.endsWith("/photo") && !pattern.endsWith("{enclosure}") && !pattern.endsWith("/outline") && !pattern.equals("/alive") && !pattern.startsWith("/actuator")).toList();
    }

    @Test
    void no_page_of_the_staff_has_a_serious_fault() throws IOException {
        byte[] stl = Files3d.stl(Shapes.box(20, 20, 6));
        intake.take("a".repeat(200) + ".stl", stl.length, new ByteArrayInputStream(stl), "long name", "mira");
        patterns().forEach(pattern -> look(page, examples.of(pattern)));
        byte[] gcode = "; by hand\nG28\nG1 X20 Y20 Z0.2 F3000\nG1 X60 E2 F1200\nG1 Y60 E4\nG1 X20 E6\n".getBytes(StandardCharsets.US_ASCII);
        look(page, "/tickets/" + intake.take("by-hand.gcode", gcode.length, new ByteArrayInputStream(gcode), "by hand", "mira").pieces().getFirst().ticketId());
        assertThat(faults).isEmpty();
        assertThat(looked).isGreaterThan(MOST_OF_THEM);
    }

    @Test
    void no_page_of_a_member_has_a_serious_fault() {
        Page hers = browser.signedIn(new Browser.NewContextOptions().setViewportSize(1280, 800), "june", "demo-member");
        for (String address : List.of("/mine", examples.of("/mine/{id}"), "/password", "/handbook")) {
            look(hers, address);
        }
        assertThat(faults).isEmpty();
    }

    @Test
    void nor_has_the_door() {
        Page stranger = browser.page(new Browser.NewContextOptions().setViewportSize(1280, 800));
        for (String address : List.of("/sign-in", "/sign-in/code")) {
            look(stranger, address);
        }
        assertThat(faults).isEmpty();
    }

    /** Pieces of pages are looked at on the pages they belong to. */
    private void look(Page page, String address) {
        page.setViewportSize(1280, 800);
        page.emulateMedia(new Page.EmulateMediaOptions().setColorScheme(ColorScheme.LIGHT).setReducedMotion(ReducedMotion.REDUCE));
        Response answer = page.navigate(browser.at(address));
        if (answer == null || answer.status() != 200 || page.locator("body > header.top").count() == 0) {
            return;
        }
        looked++;
        check(address, "on a desk", axe(page).withTags(RULES));
        mainActionIsNear(page, address);
        page.emulateMedia(new Page.EmulateMediaOptions().setColorScheme(ColorScheme.DARK));
        check(address, "on a desk in the dark", axe(page).withRules(COLOURS));
        page.setViewportSize(360, 740);
        check(address, "on a phone in the dark", axe(page).withRules(COLOURS));
        page.emulateMedia(new Page.EmulateMediaOptions().setColorScheme(ColorScheme.LIGHT));
        check(address, "on a phone", axe(page).withTags(RULES).disableRules(COLOURS));
        Object wide = page.evaluate("() => document.documentElement.scrollWidth");
        if (((Number) wide).intValue() > 360) {
            faults.add("%s on a phone: %s px wide".formatted(address, wide));
        }
    }

    /** Our pages have no frames, so that all of a page is looked at in one go. */
    private static AxeBuilder axe(Page page) {
        return new AxeBuilder(page).setLegacyMode(true);
    }

    private void check(String address, String where, AxeBuilder axe) {
        for (Rule fault : axe.analyze().getViolations()) {
            if (SERIOUS.contains(fault.getImpact()) || fault.getId().equals("heading-order")) {
                faults.add("%s %s: %s, %s".formatted(address, where, fault.getId(), fault.getNodes().stream().limit(3).map(node -> node.getHtml()
                        .substring(0, Math.min(160, node.getHtml().length()))).toList()));
            }
        }
    }

    /** From the link that leads past the places, to what is done next on the page. */
    private void mainActionIsNear(Page page, String address) {
        Object stops = page.evaluate("""
                () => { const all = [...document.querySelectorAll('main a[href], main button, main input:not([type=hidden]), main select, main textarea, main summary, main [tabindex="0"]')]
                        .filter(each => !each.disabled && each.checkVisibility());
                    return all.findIndex(each => each.matches('.button.next')); }""");
        if (((Number) stops).intValue() >= TAB_STOPS) {
            faults.add("%s: its main action is %s tab stops away".formatted(address, stops));
        }
    }
}
