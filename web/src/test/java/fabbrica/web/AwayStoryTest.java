package fabbrica.web;

import static com.microsoft.playwright.assertions.PlaywrightAssertions.assertThat;
import static org.assertj.core.api.Assertions.assertThat;

import com.microsoft.playwright.Locator;
import com.microsoft.playwright.Page;
import com.microsoft.playwright.Route;
import com.microsoft.playwright.options.AriaRole;
import com.microsoft.playwright.options.FilePayload;
import fabbrica.core.mesh.model.Shapes;
import java.util.regex.Pattern;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.springframework.test.context.TestPropertySource;

/** What was typed or dropped while the session ended or the server went away. */
@DemoLabTest
@TestPropertySource(properties = "fabbrica.data=target/away-lab")
class AwayStoryTest extends Story {

    private Locator trouble;

    @BeforeEach
    void atTheCounter() {
        assertThat(page).hasURL(browser.at("/counter"));
        trouble = page.locator("#trouble");
    }

    @Test
    void a_form_typed_in_while_the_session_ended_is_kept_and_sent_after_all() {
        page.navigate(browser.at("/members/0"));
        page.getByLabel("Name").fill("Odalys Brandt");
        page.context().clearCookies();
        button("Keep").click();
        assertThat(trouble).containsText("Your session is over. Nothing was sent.");
        assertThat(page.getByLabel("Name")).hasValue("Odalys Brandt");
        signInElsewhere("mira", "demo-coordinator");
        button("Keep").click();
        assertThat(page).hasURL(browser.at("/members"));
        assertThat(page.locator("main")).containsText("Odalys Brandt");
    }

    @Test
    void a_form_is_not_sent_in_somebody_elses_name() {
        page.navigate(browser.at("/members/0"));
        page.getByLabel("Name").fill("Wrong Hands");
        page.context().clearCookies();
        signInElsewhere("tomas", "demo-helper");
        button("Keep").click();
        assertThat(trouble).containsText("“tomas” has signed in here meanwhile.");
        assertThat(page.getByLabel("Name")).hasValue("Wrong Hands");
    }

    @Test
    void what_was_typed_while_the_server_was_away_is_sent_when_it_is_back() {
        page.navigate(browser.at("/stores/spools/new"));
        page.getByLabel("Colour").fill("dusk");
        page.context().setOffline(true);
        button("Keep").click();
        assertThat(trouble).containsText("The server cannot be reached. Nothing was sent.");
        assertThat(page.getByLabel("Colour")).hasValue("dusk");
        page.context().setOffline(false);
        button("Keep").click();
        assertThat(page).hasURL(browser.at("/stores"));
        assertThat(page.locator("main")).containsText("dusk");
    }

    @Test
    void what_was_typed_while_the_disk_is_full_stays_until_there_is_room() {
        page.navigate(browser.at("/stores/spools/new"));
        page.getByLabel("Colour").fill("dawn");
        page.route("**/alive", route -> route.fulfill(new Route.FulfillOptions().setContentType("application/json")
                .setBody("{\"who\": \"mira\", \"token\": \"t\", \"trouble\": \"The disk of the lab's computer is full.\"}")));
        button("Keep").click();
        assertThat(trouble).containsText("The disk of the lab's computer is full. Nothing was sent. What you entered is still here");
        assertThat(page.getByLabel("Colour")).hasValue("dawn");
        page.unroute("**/alive");
        button("Keep").click();
        assertThat(page).hasURL(browser.at("/stores"));
    }

    @Test
    void a_file_dropped_while_the_session_ended_is_handed_over_afterwards() {
        page.context().clearCookies();
        page.locator("#file").setInputFiles(new FilePayload("late.stl", "model/stl", Files3d.stl(Shapes.box(20, 20, 5))));
        assertThat(trouble).containsText("Your session is over.");
        assertThat(page.getByLabel("Password")).hasCount(0);
        signInElsewhere("mira", "demo-coordinator");
        button("Hand over").click();
        assertThat(page).hasURL(Pattern.compile(".*/tickets/\\d+"));
        assertThat(page.locator("h1")).containsText("late.stl");
    }

    @Test
    void no_sign_in_form_is_put_into_a_page() {
        page.locator("#to-decide ~ section .strip:has-text('planter.stl') a").click();
        assertThat(page.locator("#estimate-time")).isVisible();
        page.getByText("Recipe:").click();
        page.context().clearCookies();
        page.locator("#infill").fill("35");
        assertThat(trouble).containsText("Your session is over.");
        assertThat(page.getByLabel("Password")).hasCount(0);
        assertThat(page.locator("#infill")).hasValue("35");
    }

    private void signInElsewhere(String name, String password) {
        Page other = page.context().newPage();
        other.navigate(browser.at("/sign-in"));
        other.getByLabel("Name").fill(name);
        other.getByLabel("Password").fill(password);
        other.getByRole(AriaRole.BUTTON, new Page.GetByRoleOptions().setName("Sign in")).click();
        assertThat(other).hasURL(browser.at("/counter"));
        other.close();
    }
}
