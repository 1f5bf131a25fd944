package fabbrica.bench.soak;

import fabbrica.bench.Load;
import java.io.IOException;
import java.net.URI;
import java.net.URLEncoder;
import java.net.http.HttpClient;
import java.net.http.HttpRequest;
import java.net.http.HttpResponse;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Duration;
import java.time.LocalTime;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.regex.Matcher;
import java.util.regex.Pattern;

/** The server of a demo, that can be killed and started again with what it had, and what somebody asks it for. */
final class Site implements AutoCloseable {

    private static final LocalTime OPENS = LocalTime.of(7, 0);
    private static final Duration LONGEST_START = Duration.ofMinutes(5);

    private final String address;
    private final Path data;
    private final List<String> command;
    private final int speed;
    private final long began = System.nanoTime();
    private Process process;
    private volatile HttpClient browser;

    /**
     * Starts it with fifty printers and a thousand plates that wait.
     *
     * @param speed   of the lab's clock
     * @param command that starts a server
     */
    Site(int port, Path data, int speed, List<String> command) throws IOException, InterruptedException {
        this.address = "http://localhost:" + port;
        this.data = data;
        this.speed = speed;
        this.command = command;
        this.process = start(false);
        this.browser = signedIn();
    }

    private Process start(boolean goesOn) throws IOException {
        List<String> all = new ArrayList<>(command);
        all.addAll(List.of("--server.port=" + URI.create(address).getPort(), "--fabbrica.data=" + data.resolve("lab"), "--fabbrica.machine.every=250ms", "--fabbrica.demo=true",
                "--fabbrica.demo.goes-on=" + goesOn, "--fabbrica.demo.crowd=true", "--fabbrica.demo.speed=" + speed, "--fabbrica.demo.at=" + OPENS.plusNanos(speed * (System.nanoTime() - began))));
        return new ProcessBuilder(all).redirectErrorStream(true).redirectOutput(ProcessBuilder.Redirect.appendTo(data.resolve("log").toFile())).start();
    }

    private HttpClient signedIn() throws IOException, InterruptedException {
        HttpClient fresh = Load.browser();
        long patience = System.nanoTime() + LONGEST_START.toNanos();
        while (true) {
            try {
                Load.signIn(fresh, address, "mira", "demo-coordinator");
                return fresh;
            } catch (IOException notYet) {
                if (!process.isAlive() || System.nanoTime() > patience) {
                    throw new IOException("the server does not come: see " + data.resolve("log"), notYet);
                }
                Thread.sleep(200);
            }
        }
    }

    /** As when the power goes; and starts it again. */
    void killAndStart() throws IOException, InterruptedException {
        process.destroyForcibly().waitFor();
        process = start(true);
        browser = signedIn();
    }

    /** What it holds in memory, MB; not known on a system without {@code /proc}. */
    long megabytes() throws IOException {
        return Files.readAllLines(Path.of("/proc", Long.toString(process.pid()), "status")).stream().filter(line -> line.startsWith("VmRSS:"))
                .mapToLong(line -> Long.parseLong(line.replaceAll("\\D", "")) / 1024).findFirst().orElseThrow();
    }

    /** Signed in, until the server is killed. */
    HttpClient browser() {
        return browser;
    }

    String address() {
        return address;
    }

    /** @throws IOException while it is away, or when it does not answer with a page */
    String get(String path) throws IOException, InterruptedException {
        HttpResponse<String> answer = Load.get(browser, address, path);
        if (answer.statusCode() != 200) {
            throw new IOException(path + " answered " + answer.statusCode());
        }
        return answer.body();
    }

    /**
     * Sends a form of a page that was got before.
     *
     * @param fields encoded, without the ones that each form has
     * @return what the server said when it was not taken
     */
    Optional<String> post(String to, String fields, String page) throws IOException, InterruptedException {
        String all = "%s&_csrf=%s&seen=%s&token=%s".formatted(fields, encoded(value(page, "_csrf")), encoded(value(page, "seen")), encoded(value(page, "token")));
        HttpResponse<String> answer = browser.send(HttpRequest.newBuilder(URI.create(address + to)).header("Content-Type", "application/x-www-form-urlencoded")
                .POST(HttpRequest.BodyPublishers.ofString(all)).build(), HttpResponse.BodyHandlers.ofString());
        return answer.statusCode() == 302 ? Optional.empty() : Optional.of("%s: %s %s".formatted(to.replaceAll("\\d+", "n"), answer.statusCode(), said(answer.body())));
    }

    private static String said(String page) {
        Matcher trouble = Pattern.compile("class=\"(?:wrong|state stops)[^>]*>([^<]*)").matcher(page);
        return trouble.results().map(each -> each.group(1).strip()).filter(each -> !each.isEmpty()).findFirst().orElse("");
    }

    /** What stands in a field of a page; empty when there is none. */
    static String value(String page, String field) {
        Matcher input = Pattern.compile("<input[^>]*name=\"" + field + "\"[^>]*>").matcher(page);
        Matcher value = Pattern.compile(" value=\"([^\"]*)\"").matcher(input.find() ? input.group() : "");
        return value.find() ? value.group(1) : "";
    }

    static String encoded(String text) {
        return URLEncoder.encode(text, StandardCharsets.UTF_8);
    }

    @Override
    public void close() {
        process.destroy();
    }
}
