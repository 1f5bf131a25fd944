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

    Locator button(String name) {
        return page.getByRole(AriaRole.BUTTON, new Page.GetByRoleOptions().setName(name).setExact(true));
    }
}
