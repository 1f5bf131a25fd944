package fabbrica.web;

import static org.assertj.core.api.Assertions.assertThat;

import com.microsoft.playwright.Browser;
import com.microsoft.playwright.Locator;
import com.microsoft.playwright.Page;
import com.microsoft.playwright.options.AriaRole;
import java.util.ArrayList;
import java.util.List;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import org.springframework.boot.test.web.server.LocalServerPort;

/** What the coordinator does in a browser, from signing in; whatever goes wrong in a script fails it. */
abstract class Story {

    @LocalServerPort
    private int port;

    InBrowser browser;
    Page page;
    private final List<String> scriptErrors = new ArrayList<>();

    @BeforeEach
    void open() {
        browser = new InBrowser(port);
        page = browser.signedIn(new Browser.NewContextOptions().setViewportSize(1280, 800));
        InBrowser.watch(page, scriptErrors);
    }

    @AfterEach
    void close() {
        browser.close();
        assertThat(scriptErrors).isEmpty();
    }

    /** Unfolds a stage of a ticket's page once its scripts are at work. */
    void unfold(String title) {
        page.waitForFunction("() => document.readyState === 'complete'");
        Locator stage = page.locator("details.fold", new Page.LocatorOptions().setHas(page.getByRole(AriaRole.HEADING,
                new Page.GetByRoleOptions().setName(title).setExact(true))));
        if (stage.getAttribute("open") == null) {
            stage.locator("summary").first().click();
        }
    }

    /** Chooses what is folded away beside what is chosen. */
    void choose(String label) {
        Locator choice = page.getByLabel(label);
        if (!choice.isVisible()) {
            page.locator("details.others", new Page.LocatorOptions().setHas(page.getByLabel(label))).locator("summary").click();
        }
        choice.check();
    }

    Locator button(String name) {
        return page.getByRole(AriaRole.BUTTON, new Page.GetByRoleOptions().setName(name).setExact(true));
    }
}
