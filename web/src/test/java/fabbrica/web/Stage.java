package fabbrica.web;

import static org.assertj.core.api.Assertions.assertThat;

import com.microsoft.playwright.Browser;
import com.microsoft.playwright.Locator;
import com.microsoft.playwright.Page;
import com.microsoft.playwright.Request;
import com.microsoft.playwright.Route;
import java.io.IOException;
import java.io.UncheckedIOException;
import java.net.URI;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.function.Function;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import org.springframework.core.io.ClassPathResource;
import org.webjars.WebJarVersionLocator;

/**
 * A script by itself, in a browser without an application: the page has the few elements it works on, and what it asks for is
 * answered by the test. One point on the screen is one unit of the page; the window is 1000 × 700.
 */
abstract class Stage {

    private static final String HOME = "http://stage.test";
    private static final WebJarVersionLocator WEBJARS = new WebJarVersionLocator();

    Page page;
    /** What was asked for that no file answers, as method, path and query. */
    final List<String> asked = new ArrayList<>();
    private final Map<String, Function<Request, byte[]>> answers = new HashMap<>();
    private final List<String> scriptErrors = new ArrayList<>();
    private InBrowser browser;

    @BeforeEach
    void open() {
        browser = new InBrowser(HOME);
        page = browser.page(new Browser.NewContextOptions().setViewportSize(1000, 700));
        page.onPageError(scriptErrors::add);
        page.route(HOME + "/**", this::answer);
    }

    /** A page that still asks for things cannot be closed: the answer would go to one that is gone. So it is left first. */
    @AfterEach
    void close() {
        page.navigate("about:blank");
        browser.close();
        assertThat(scriptErrors).isEmpty();
    }

    /** @param path without query */
    void answer(String path, byte[] body) {
        answer(path, request -> body);
    }

    void answer(String path, String body) {
        answer(path, body.getBytes(StandardCharsets.UTF_8));
    }

    /** @param body what comes back; null for “there is no such thing” */
    void answer(String path, Function<Request, byte[]> body) {
        answers.put(path, body);
    }

    /** Opens a page with the house's own styles and libraries. */
    void play(String head, String body) {
        answer("/", """
                <!DOCTYPE html><html><head><link rel="stylesheet" href="/style.css">%s%s</head><body data-who="mira" style="margin: 0">%s</body></html>
                """.formatted(importMap(), head, body));
        page.navigate(HOME + "/");
    }

    Locator at(String selector) {
        return page.locator(selector);
    }

    private void answer(Route route) {
        String path = URI.create(route.request().url()).getPath();
        byte[] body = answers.containsKey(path) ? answers.get(path).apply(route.request()) : file(path);
        if (!path.contains(".")) {
            asked.add(route.request().method() + " " + route.request().url().substring(HOME.length()));
        }
        Route.FulfillOptions answer = new Route.FulfillOptions().setStatus(body == null ? 404 : 200);
        route.fulfill(body == null ? answer : answer.setBodyBytes(body).setContentType(path.endsWith(".js") ? "text/javascript"
                : path.endsWith(".css") ? "text/css" : path.contains("json") ? "application/json" : "text/html;charset=utf-8"));
    }

    private static byte[] file(String path) {
        String[] names = path.split("/", 4);
        ClassPathResource file = new ClassPathResource(names[1].equals("webjars")
                ? Objects.requireNonNull(WEBJARS.fullPath(names[2], names[3])) : "static" + path);
        try {
            return file.exists() ? file.getContentAsByteArray() : null;
        } catch (IOException e) {
            throw new UncheckedIOException(e);
        }
    }

    private static String importMap() {
        try {
            Matcher map = Pattern.compile("<script type=\"importmap\">.*?</script>").matcher(
                    new ClassPathResource("templates/layout.html").getContentAsString(StandardCharsets.UTF_8));
            assertThat(map.find()).isTrue();
            return map.group();
        } catch (IOException e) {
            throw new UncheckedIOException(e);
        }
    }
}
