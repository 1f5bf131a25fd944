package fabbrica.web;

import com.microsoft.playwright.Browser;
import com.microsoft.playwright.BrowserType;
import com.microsoft.playwright.Page;
import com.microsoft.playwright.Playwright;
import com.microsoft.playwright.assertions.PlaywrightAssertions;
import com.microsoft.playwright.options.AriaRole;
import java.nio.file.Path;
import java.util.List;
import java.util.Map;

/** Headless Chromium from the system's packages, signed in as the demo's coordinator. */
final class InBrowser implements AutoCloseable {

    /** Machines that test are slow now and then, and draw without a graphics card. */
    private static final double PATIENCE_MS = 60_000;

    private final Playwright playwright;
    private final Browser browser;
    private final String address;

    InBrowser(int port) {
        address = "http://localhost:" + port;
        PlaywrightAssertions.setDefaultAssertionTimeout(PATIENCE_MS);
        playwright = Playwright.create(new Playwright.CreateOptions()
                .setEnv(Map.of("PLAYWRIGHT_SKIP_BROWSER_DOWNLOAD", "1")));
        browser = playwright.chromium().launch(new BrowserType.LaunchOptions()
                .setExecutablePath(Path.of("/usr/bin/chromium"))
                .setArgs(List.of("--no-sandbox", "--disable-quic", "--no-first-run",
                        "--disable-background-networking", "--disable-component-update", "--disable-sync",
                        "--use-angle=swiftshader", "--enable-unsafe-swiftshader")));
    }

    Page signedIn(Browser.NewContextOptions options) {
        Page page = browser.newContext(options).newPage();
        page.navigate(address + "/");
        page.getByLabel("Name").fill("mira");
        page.getByLabel("Password").fill("demo-coordinator");
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
        playwright.close();
    }
}
