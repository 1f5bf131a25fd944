package fabbrica.web;

import static org.assertj.core.api.Assertions.assertThat;

import fabbrica.core.mesh.model.Shapes;
import java.io.BufferedReader;
import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.io.InputStream;
import java.net.CookieManager;
import java.net.ServerSocket;
import java.net.URI;
import java.net.URLEncoder;
import java.net.http.HttpClient;
import java.net.http.HttpRequest;
import java.net.http.HttpRequest.BodyPublishers;
import java.net.http.HttpResponse;
import java.net.http.HttpResponse.BodyHandlers;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.concurrent.CompletableFuture;
import java.util.concurrent.CountDownLatch;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import java.util.stream.Stream;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** A lab of its own in a process of its own: set up, used, killed in the middle of an upload, and started again. */
class CrashTest {

    private static final String PASSWORD = "correct horse battery";
    private static final String BOUNDARY = "fabbrica-test-boundary";

    @TempDir
    private Path folder;

    private Process process;
    private String address;
    private String firstCode;
    private HttpClient browser;

    @AfterEach
    void kill() {
        process.destroyForcibly();
    }

    @Test
    void killed_during_an_upload_it_comes_back_with_every_ticket_whole() throws Exception {
        start();
        assertThat(firstCode).isNotNull();
        submit("/setup", "code=" + firstCode + "&lab=Test+lab&currency=EUR&name=Ana&username=ana&password="
                + URLEncoder.encode(PASSWORD, StandardCharsets.UTF_8));
        signIn();
        byte[] whole = upload(Files3d.stl(Shapes.box(20, 20, 20)));
        HttpResponse<String> taken = browser.send(counterPost(BodyPublishers.ofByteArray(whole)),
                BodyHandlers.ofString());
        assertThat(taken.headers().firstValue("Location").orElseThrow()).endsWith("/tickets/1");

        CountDownLatch halfSent = new CountDownLatch(1);
        byte[] large = upload(Files3d.stl(Shapes.sphere(30, 400, 200)));
        CompletableFuture<?> sending = browser.sendAsync(counterPost(BodyPublishers.ofInputStream(
                () -> new StoppingHalfway(large, halfSent))), BodyHandlers.ofString());
        halfSent.await();
        process.destroyForcibly().waitFor();
        sending.cancel(true);

        start();
        assertThat(firstCode).as("the coordinator is still there").isNull();
        signIn();
        assertThat(get("/counter").body()).contains("/tickets/1\"").doesNotContain("/tickets/2\"");
        String ticket = get("/tickets/1").body();
        for (int tries = 0; tries < 300 && ticket.contains("Measuring the part"); tries++) {
            Thread.sleep(100);
            ticket = get("/tickets/1").body();
        }
        assertThat(ticket).contains("20 × 20 × 20 mm");
        assertThat(get("/tickets/2").statusCode()).isEqualTo(404);
        try (Stream<Path> files = Files.list(folder.resolve("files"))) {
            assertThat(files).hasSize(1);
        }
    }

    private void start() throws IOException {
        int port;
        try (ServerSocket free = new ServerSocket(0)) {
            port = free.getLocalPort();
        }
        address = "http://localhost:" + port;
        browser = HttpClient.newBuilder().cookieHandler(new CookieManager()).build();
        process = new ProcessBuilder(Path.of(System.getProperty("java.home"), "bin", "java").toString(), "-cp",
                System.getProperty("java.class.path"), FabbricaApplication.class.getName(), "--server.port=" + port,
                "--fabbrica.data=" + folder).redirectErrorStream(true).start();
        firstCode = null;
        List<String> printed = new ArrayList<>();
        BufferedReader terminal = process.inputReader();
        for (String line = terminal.readLine(); line != null; line = terminal.readLine()) {
            printed.add(line);
            if (line.startsWith("First visit")) {
                firstCode = line.substring(line.lastIndexOf(' ') + 1);
            }
            if (firstCode != null || line.contains("Started FabbricaApplication") && hasDatabase()) {
                return;
            }
        }
        throw new AssertionError("it did not start: " + printed);
    }

    /** On a first start the code is printed after the line that says it has started. */
    private boolean hasDatabase() throws IOException {
        return Files.exists(folder.resolve("files")) && Files.list(folder.resolve("files")).findAny().isPresent();
    }

    private void signIn() throws Exception {
        submit("/sign-in", "username=ana&password=" + URLEncoder.encode(PASSWORD, StandardCharsets.UTF_8));
        assertThat(get("/counter").body()).contains("Drop a file here");
    }

    private HttpResponse<String> get(String path) throws Exception {
        return browser.send(HttpRequest.newBuilder(URI.create(address + path)).build(), BodyHandlers.ofString());
    }

    private void submit(String page, String fields) throws Exception {
        String csrf = URLEncoder.encode(hidden(get(page).body(), "_csrf"), StandardCharsets.UTF_8);
        browser.send(HttpRequest.newBuilder(URI.create(address + page))
                .header("Content-Type", "application/x-www-form-urlencoded")
                .POST(BodyPublishers.ofString(fields + "&_csrf=" + csrf)).build(), BodyHandlers.ofString());
    }

    private HttpRequest counterPost(HttpRequest.BodyPublisher body) throws Exception {
        return HttpRequest.newBuilder(URI.create(address + "/counter"))
                .header("Content-Type", "multipart/form-data; boundary=" + BOUNDARY)
                .header("X-CSRF-TOKEN", hidden(get("/counter").body(), "_csrf")).POST(body).build();
    }

    private byte[] upload(byte[] stl) throws Exception {
        ByteArrayOutputStream body = new ByteArrayOutputStream();
        body.writeBytes(("--" + BOUNDARY + "\r\nContent-Disposition: form-data; name=\"token\"\r\n\r\n"
                + hidden(get("/counter").body(), "token") + "\r\n--" + BOUNDARY
                + "\r\nContent-Disposition: form-data; name=\"file\"; filename=\"part.stl\"\r\n"
                + "Content-Type: model/stl\r\n\r\n").getBytes(StandardCharsets.US_ASCII));
        body.writeBytes(stl);
        body.writeBytes(("\r\n--" + BOUNDARY + "--\r\n").getBytes(StandardCharsets.US_ASCII));
        return body.toByteArray();
    }

    private static String hidden(String page, String name) {
        Matcher input = Pattern.compile("name=\"" + name + "\"[^>]*value=\"([^\"]+)\"").matcher(page);
        assertThat(input.find()).as("a hidden field " + name).isTrue();
        return input.group(1);
    }

    /** Hands out the first half of some content, says so, and then nothing more. */
    private static final class StoppingHalfway extends InputStream {

        private final byte[] content;
        private final CountDownLatch halfSent;
        private int at;

        StoppingHalfway(byte[] content, CountDownLatch halfSent) {
            this.content = content;
            this.halfSent = halfSent;
        }

        @Override
        public int read() throws IOException {
            if (at >= content.length / 2) {
                halfSent.countDown();
                try {
                    Thread.sleep(60_000);
                } catch (InterruptedException e) {
                    throw new IOException(e);
                }
            }
            return content[at++] & 0xff;
        }
    }
}
