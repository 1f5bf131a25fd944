package fabbrica.web;

import static com.microsoft.playwright.assertions.PlaywrightAssertions.assertThat;
import static org.assertj.core.api.Assertions.assertThat;

import com.microsoft.playwright.Browser;
import com.microsoft.playwright.Locator;
import com.microsoft.playwright.Page;
import com.microsoft.playwright.options.AriaRole;
import com.microsoft.playwright.options.FilePayload;
import fabbrica.core.mesh.model.Shapes;
import java.io.ByteArrayOutputStream;
import java.io.PrintStream;
import java.nio.file.Path;
import java.util.Objects;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.springframework.context.ConfigurableApplicationContext;

/** From an empty folder to a first print in the queue, by somebody who has not seen it before. */
class FirstVisitStoryTest {

    /** A person who reads each question takes some eight seconds over it, so that they fill less than five minutes (a judgement of ours). */
    private static final int MOST_ACTIONS = 37;

    @Test
    void from_an_empty_folder_to_the_first_verdict_the_first_estimate_and_the_queue(@TempDir Path folder) {
        ByteArrayOutputStream printed = new ByteArrayOutputStream();
        PrintStream terminal = System.out;
        System.setOut(new PrintStream(printed));
        try (ConfigurableApplicationContext lab = FabbricaApplication.application().run("--server.port=0", "--fabbrica.data=" + folder)) {
            System.setOut(terminal);
            Matcher code = Pattern.compile("one-time code: (\\w+)").matcher(printed.toString());
            assertThat(code.find()).isTrue();
            try (InBrowser browser = new InBrowser(Integer.parseInt(Objects.requireNonNull(lab.getEnvironment().getProperty("local.server.port"))))) {
                visit(browser, code.group(1));
            }
        } finally {
            System.setOut(terminal);
        }
    }

    private static void visit(InBrowser browser, String code) {
        Page page = browser.page(new Browser.NewContextOptions().setViewportSize(1280, 800));
        Tally tally = new Tally(page);
        page.navigate(browser.at("/"));
        fill(tally, page, "One-time code", code);
        fill(tally, page, "Name of the lab", "Attic lab");
        fill(tally, page, "Your name", "Runa");
        fill(tally, page, "Sign-in name", "runa");
        fill(tally, page, "Password", "kettle moss ladder");
        press(tally, page, "Set up the lab");
        assertThat(page.locator("main")).containsText("The lab is set up.");
        fill(tally, page, "Name", "runa");
        fill(tally, page, "Password", "kettle moss ladder");
        press(tally, page, "Sign in");

        tally.act(page.locator("#file"), file -> file.setInputFiles(new FilePayload("peg.stl", "model/stl", Files3d.stl(Shapes.box(30, 20, 10)))));
        assertThat(page.locator(".verdict")).containsText("● Prints: 30 × 20 × 10 mm");
        assertThat(page.locator(".wrong:visible, .stops:visible")).hasCount(0);
        assertThat(page.locator("main")).not().containsText("0 of 0");
        fill(tally, page, "Member", "Runa Vell");
        tally.act(page.getByText("Somebody new?"), Locator::click);
        tally.act(page.getByLabel("new member"), Locator::check);
        tally.act(page.getByLabel("What for"), purpose -> purpose.selectOption("EVERYDAY"));
        tally.act(page.locator("#next-step"), Locator::click);
        assertThat(page.locator("#next-step")).hasText("Say what it is printed on");
        tally.act(page.locator("#next-step"), Locator::click);

        assertThat(page.locator("h1")).hasText("The first printer, and what is in it");
        fill(tally, page, "What do people call it?", "Attic bench");
        fill(tally, page, "How wide is its plate?", "wide");
        press(tally, page, "Keep both");
        assertThat(page.getByRole(AriaRole.ALERT)).containsText("The width of the plate takes a number; “wide” was given.");
        assertThat(page.getByRole(AriaRole.ALERT)).containsText("The colour of the filament");
        fill(tally, page, "How wide is its plate?", "180");
        fill(tally, page, "What colour is it?", "moss");
        press(tally, page, "Keep both");
        assertThat(page.getByRole(AriaRole.STATUS)).containsText("Attic bench can print now, with PLA, moss.");

        assertThat(page.locator("#next-step")).hasText("Queue it on Attic bench");
        assertThat(page.locator("#estimate-time")).isVisible();
        assertThat(page.locator("main")).not().containsText("badge");
        tally.act(page.locator("#next-step"), Locator::click);
        assertThat(page.getByRole(AriaRole.STATUS)).containsText("It waits for its printer now.");
        assertThat(tally.actions()).as("%s", tally).isLessThanOrEqualTo(MOST_ACTIONS);
    }

    private static void fill(Tally tally, Page page, String question, String answer) {
        tally.act(page.getByLabel(question, new Page.GetByLabelOptions().setExact(question.equals("Member") || question.equals("Name"))).first(), field -> field.fill(answer));
    }

    private static void press(Tally tally, Page page, String name) {
        tally.act(page.getByRole(AriaRole.BUTTON, new Page.GetByRoleOptions().setName(name)), Locator::click);
    }
}
