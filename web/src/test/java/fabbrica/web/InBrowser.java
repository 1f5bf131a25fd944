package fabbrica.web;

import com.microsoft.playwright.Browser;
import com.microsoft.playwright.BrowserContext;
import com.microsoft.playwright.BrowserType;
import com.microsoft.playwright.Page;
import com.microsoft.playwright.Playwright;
import com.microsoft.playwright.assertions.PlaywrightAssertions;
import com.microsoft.playwright.options.AriaRole;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;

/** Headless Chromium from the system's packages, one for all tests of a run; each opens its own windows, signed in as the demo's coordinator. */
final class InBrowser implements AutoCloseable {

    /** Machines that test are slow now and then, and draw without a graphics card. */
    private static final double PATIENCE_MS = 60_000;
    private static final Browser CHROMIUM = launch();

    private final List<BrowserContext> windows = new ArrayList<>();
    private final String address;

    InBrowser(int port) {
        this("http://localhost:" + port);
    }

    InBrowser(String address) {
        this.address = address;
    }

    /** It ends with the tests: its driver stops when nobody talks to it any more. */
    private static Browser launch() {
        PlaywrightAssertions.setDefaultAssertionTimeout(PATIENCE_MS);
        return Playwright.create(new Playwright.CreateOptions().setEnv(Map.of("PLAYWRIGHT_SKIP_BROWSER_DOWNLOAD", "1"))).chromium()
                .launch(new BrowserType.LaunchOptions().setExecutablePath(Path.of("/usr/bin/chromium"))
                        .setArgs(List.of("--no-sandbox", "--disable-quic", "--no-first-run", "--disable-background-networking",
                                "--disable-component-update", "--disable-sync", "--use-angle=swiftshader", "--enable-unsafe-swiftshader")));
    }

    Page page(Browser.NewContextOptions options) {
        BrowserContext window = CHROMIUM.newContext(options);
        windows.add(window);
        Page page = window.newPage();
        page.setDefaultTimeout(PATIENCE_MS);
        return page;
    }

    Page signedIn(Browser.NewContextOptions options) {
        return signedIn(options, "mira", "demo-coordinator");
    }

    Page signedIn(Browser.NewContextOptions options, String name, String password) {
        Page page = page(options);
        page.navigate(address + "/");
        page.getByLabel("Name").fill(name);
        page.getByLabel("Password").fill(password);
        page.getByRole(AriaRole.BUTTON, new Page.GetByRoleOptions().setName("Sign in")).click();
        return page;
    }

    /** Collects what goes wrong in scripts, and what the page's own policy holds back. */
    static void watch(Page page, List<String> errors) {
        page.onPageError(errors::add);
        page.onConsoleMessage(message -> {
            if (message.text().contains("Content Security Policy")) {
                errors.add(message.text());
            }
        });
    }

    String at(String path) {
        return address + path;
    }

    @Override
    public void close() {
        windows.forEach(BrowserContext::close);
    }
}
