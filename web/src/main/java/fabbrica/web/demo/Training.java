package fabbrica.web.demo;

import java.io.IOException;
import java.net.CookieManager;
import java.net.URI;
import java.net.http.HttpClient;
import java.net.http.HttpRequest;
import java.net.http.HttpResponse;
import java.util.List;
import java.util.regex.MatchResult;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import java.util.stream.Stream;
import org.springframework.boot.autoconfigure.condition.ConditionalOnProperty;
import org.springframework.boot.context.event.ApplicationReadyEvent;
import org.springframework.context.annotation.Lazy;
import org.springframework.context.event.EventListener;
import org.springframework.core.env.Environment;
import org.springframework.stereotype.Component;

/**
 * Opens the demo's pages as somebody who looks around, and ends. The launcher starts so once after a build and has the JVM
 * record which classes were needed and what ran often (JEP 483 and 515), so that the first pages of later starts are quick.
 */
@Component
@Lazy(false)
@ConditionalOnProperty("fabbrica.training")
class Training {

    private static final int ROUNDS = 12;
    private static final List<String> PAGES = List.of("/counter", "/floor", "/stores", "/stores/disk", "/stores/lab/settings",
            "/stores/spools/new", "/stores/printers/new", "/ledger", "/ledger.csv", "/members", "/members/1", "/handbook", "/accounts");

    private final Environment environment;
    private final HttpClient browser = HttpClient.newBuilder().cookieHandler(new CookieManager()).build();

    Training(Environment environment) {
        this.environment = environment;
    }

    @EventListener(ApplicationReadyEvent.class)
    void lookAround(ApplicationReadyEvent ready) throws IOException, InterruptedException {
        Matcher token = Pattern.compile("name=\"_csrf\"[^>]*value=\"([^\"]+)\"").matcher(page("/sign-in"));
        if (token.find()) {
            browser.send(HttpRequest.newBuilder(address("/sign-in")).header("Content-Type", "application/x-www-form-urlencoded")
                    .POST(HttpRequest.BodyPublishers.ofString("username=mira&password=demo-coordinator&_csrf=" + token.group(1))).build(),
                    HttpResponse.BodyHandlers.discarding());
        }
        List<String> tickets = Pattern.compile("/tickets/\\d+(?=\")").matcher(page("/counter")).results().map(MatchResult::group)
                .distinct().toList();
        for (int round = 0; round < ROUNDS; round++) {
            for (String path : Stream.concat(PAGES.stream(), tickets.stream()).toList()) {
                page(path);
            }
        }
        ready.getApplicationContext().close();
    }

    private String page(String path) throws IOException, InterruptedException {
        return browser.send(HttpRequest.newBuilder(address(path)).build(), HttpResponse.BodyHandlers.ofString()).body();
    }

    private URI address(String path) {
        return URI.create("http://localhost:" + environment.getRequiredProperty("local.server.port") + path);
    }
}
