package fabbrica.bench.soak;

import fabbrica.bench.Load;
import java.io.IOException;
import java.net.URI;
import java.net.http.HttpClient;
import java.net.http.HttpRequest;
import java.net.http.HttpResponse;
import java.util.EnumSet;
import java.util.Locale;
import java.util.Set;
import java.util.stream.Stream;

/** A page that is open in a browser: it has a stream of its own, and asks again whenever that tells it to, once at a time, as the script of a page does. */
final class OpenPage {

    /** What a page asks for when it is told so. */
    private enum Told {
        ALARM, MACHINE, FLOOR, WORKED;

        private String asksFor(String page) {
            return switch (this) {
                case ALARM -> "/machines/alarms";
                case MACHINE -> page.equals("/floor") ? "/machines" : "";
                case FLOOR -> page.equals("/counter") ? "" : page;
                case WORKED -> "";
            };
        }
    }

    private final Site site;
    private final String page;
    private final Answers answers;
    private final Set<Told> meanwhile = EnumSet.noneOf(Told.class);
    private volatile boolean closed;

    OpenPage(Site site, String page, Answers answers) {
        this.site = site;
        this.page = page;
        this.answers = answers;
        Thread.ofVirtual().start(this::listen);
        Thread.ofVirtual().start(this::ask);
    }

    void close() {
        closed = true;
    }

    private void listen() {
        try {
            while (!closed) {
                HttpClient browser = site.browser();
                try {
                    HttpResponse<Stream<String>> live = browser.send(HttpRequest.newBuilder(URI.create(site.address() + "/live")).build(), HttpResponse.BodyHandlers.ofLines());
                    try (Stream<String> lines = live.body()) {
                        lines.takeWhile(line -> !closed).filter(line -> line.startsWith("event:")).map(line -> Told.valueOf(line.substring("event:".length()).toUpperCase(Locale.ROOT)))
                                .forEach(this::hear);
                    }
                } catch (IOException | RuntimeException away) {
                    Thread.sleep(500);
                }
            }
        } catch (InterruptedException e) {
            Thread.currentThread().interrupt();
        }
    }

    private synchronized void hear(Told told) {
        meanwhile.add(told);
        notifyAll();
    }

    private synchronized Set<Told> told() throws InterruptedException {
        while (meanwhile.isEmpty()) {
            wait();
        }
        Set<Told> all = EnumSet.copyOf(meanwhile);
        meanwhile.clear();
        return all;
    }

    private void ask() {
        try {
            while (!closed) {
                for (Told each : told()) {
                    String path = each.asksFor(page);
                    if (!path.isEmpty()) {
                        ask(path);
                    }
                }
            }
        } catch (InterruptedException e) {
            Thread.currentThread().interrupt();
        }
    }

    private void ask(String path) throws InterruptedException {
        long start = System.nanoTime();
        try {
            if (Load.get(site.browser(), site.address(), path).statusCode() == 200) {
                answers.took(path, System.nanoTime() - start);
            }
        } catch (IOException away) {
            // The server was killed: the stream is begun anew.
        }
    }
}
