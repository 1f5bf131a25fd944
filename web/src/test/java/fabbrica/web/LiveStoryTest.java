package fabbrica.web;

import static com.microsoft.playwright.assertions.PlaywrightAssertions.assertThat;
import static org.assertj.core.api.Assertions.assertThat;

import com.microsoft.playwright.Page;
import fabbrica.core.mesh.model.Shapes;
import java.net.URI;
import java.net.http.HttpRequest;
import java.net.http.HttpResponse;
import java.util.ArrayList;
import java.util.List;
import java.util.Set;
import java.util.concurrent.CompletableFuture;
import java.util.concurrent.CountDownLatch;
import java.util.concurrent.TimeUnit;
import java.util.stream.Stream;
import org.junit.jupiter.api.Test;
import org.springframework.beans.factory.annotation.Autowired;
import org.springframework.scheduling.concurrent.ThreadPoolTaskScheduler;

/** Pages that are open learn what goes on without asking again and again. */
@DemoLabTest
class LiveStoryTest extends Story {

    private static final Set<String> SAID = Set.of("", "data:", "event:worked", "event:machine", "event:alarm");

    @Autowired
    private Steps steps;
    @Autowired
    private ThreadPoolTaskScheduler scheduler;

    @Test
    void a_stream_tells_when_a_plate_is_queued_and_says_no_more_than_that() throws Exception {
        PlainBrowser mira = new PlainBrowser(browser.at(""));
        mira.signIn("mira", "demo-coordinator");
        HttpResponse<Stream<String>> live = mira.client().send(HttpRequest.newBuilder(URI.create(browser.at("/live"))).build(),
                HttpResponse.BodyHandlers.ofLines());
        assertThat(live.headers().firstValue("Content-Type")).hasValueSatisfying(type -> assertThat(type).startsWith("text/event-stream"));
        CompletableFuture<List<String>> told = CompletableFuture.supplyAsync(() -> {
            List<String> lines = new ArrayList<>();
            live.body().takeWhile(line -> !line.equals("event:floor")).forEach(lines::add);
            return lines;
        });
        steps.queued(Shapes.box(21, 13, 5), 1, steps.printer(), steps.spool("pla", 800));
        assertThat(told.get(1, TimeUnit.MINUTES)).contains("event:worked").allMatch(line -> SAID.contains(line));
        live.body().close();
    }

    /** A backup of a lab that is old takes minutes. */
    @Test
    void what_goes_on_is_told_while_something_long_is_done_by_the_clock() throws Exception {
        CountDownLatch done = new CountDownLatch(1);
        scheduler.execute(() -> {
            try {
                done.await();
            } catch (InterruptedException e) {
                Thread.currentThread().interrupt();
            }
        });
        try {
            a_stream_tells_when_a_plate_is_queued_and_says_no_more_than_that();
        } finally {
            done.countDown();
        }
    }

    @Test
    void tabs_of_a_browser_share_one_stream_and_one_that_slept_catches_up() {
        Page other = page.context().newPage();
        for (Page tab : List.of(page, other)) {
            tab.addInitScript("window.own = 0; window.EventSource = class extends EventTarget { constructor() { super(); window.own++; } close() {} };");
            tab.navigate(browser.at("/floor"));
        }
        String printer = steps.printer();
        long plate = steps.queued(Shapes.box(22, 15, 5), 1, printer, steps.spool("pla", 800));
        for (Page tab : List.of(page, other)) {
            assertThat(tab.locator("#printer-" + printer + " a[href='/floor/plates/" + plate + "']")).isVisible();
            assertThat(tab.evaluate("own")).isEqualTo(0);
        }
        setHidden(other, true);
        long another = steps.queued(Shapes.box(22, 16, 5), 1, printer, steps.spool("pla", 800));
        assertThat(page.locator("#printer-" + printer + " a[href='/floor/plates/" + another + "']")).isVisible();
        setHidden(other, false);
        assertThat(other.locator("#printer-" + printer + " a[href='/floor/plates/" + another + "']")).isVisible();
    }

    @Test
    void a_tab_that_joins_a_stream_is_told_what_it_may_have_missed_while_it_came() {
        page.navigate(browser.at("/floor"));
        page.evaluate("() => new Promise(joined => { const tab = new SharedWorker('/live.js').port; tab.onmessage = ({ data }) => data === 'machine' && joined(); tab.postMessage(true); })");
    }

    private static void setHidden(Page tab, boolean hidden) {
        tab.evaluate("hidden => { Object.defineProperty(document, 'hidden', { value: hidden, configurable: true }); document.dispatchEvent(new Event('visibilitychange')); }", hidden);
    }

    @Test
    void an_open_floor_shows_what_others_queue_and_an_open_estimate_comes_by_itself() {
        page.navigate(browser.at("/floor"));
        String printer = steps.printer();
        long plate = steps.queued(Shapes.box(22, 14, 5), 1, printer, steps.spool("pla", 800));
        assertThat(page.locator("#printer-" + printer + " a[href='/floor/plates/" + plate + "']")).isVisible();
        page.navigate(browser.at("/tickets/" + steps.accepted(Shapes.box(23, 17, 6), 1)));
        assertThat(page.locator("#estimate-time")).isVisible();
    }
}
