package fabbrica.web;

import static org.assertj.core.api.Assertions.assertThat;

import fabbrica.core.mesh.model.Shapes;
import java.io.BufferedReader;
import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.io.InputStream;
import java.net.ServerSocket;
import java.net.URLEncoder;
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
import java.util.stream.Stream;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** A lab of its own in a process of its own: set up, used, killed in the middle of an upload, and started again. */
class CrashTest {

    private static final String PASSWORD = "correct horse battery";

    @TempDir
    private Path folder;

    private Process process;
    private String firstCode;
    private PlainBrowser browser;

    @AfterEach
    void kill() {
        process.destroyForcibly();
    }

    @Test
    void killed_during_an_upload_it_comes_back_with_every_ticket_whole() throws Exception {
        start();
        assertThat(firstCode).isNotNull();
        browser.submit("/setup", "code=" + firstCode + "&lab=Test+lab&currency=EUR&name=Ana&username=ana&password="
                + URLEncoder.encode(PASSWORD, StandardCharsets.UTF_8));
        signIn();
        byte[] whole = upload(Files3d.stl(Shapes.box(20, 20, 20)));
        HttpResponse<String> taken = browser.client().send(browser.upload(BodyPublishers.ofByteArray(whole)),
                BodyHandlers.ofString());
        assertThat(taken.headers().firstValue("Location").orElseThrow()).endsWith("/tickets/1");

        CountDownLatch halfSent = new CountDownLatch(1);
        byte[] large = upload(Files3d.stl(Shapes.sphere(30, 400, 200)));
        CompletableFuture<?> sending = browser.client().sendAsync(browser.upload(BodyPublishers.fromPublisher(
                BodyPublishers.ofInputStream(() -> new StoppingHalfway(large, halfSent)), large.length)), BodyHandlers.ofString());
        halfSent.await();
        process.destroyForcibly().waitFor();
        sending.cancel(true);

        start();
        assertThat(firstCode).as("the coordinator is still there").isNull();
        signIn();
        assertThat(browser.get("/counter").body()).contains("/tickets/1\"").doesNotContain("/tickets/2\"");
        String ticket = browser.get("/tickets/1").body();
        for (int tries = 0; tries < 300 && ticket.contains("Measuring the part"); tries++) {
            Thread.sleep(100);
            ticket = browser.get("/tickets/1").body();
        }
        assertThat(ticket).contains("20 × 20 × 20 mm");
        assertThat(browser.get("/tickets/2").statusCode()).isEqualTo(404);
        try (Stream<Path> files = Files.list(folder.resolve("files"))) {
            assertThat(files).hasSize(1);
        }
    }

    private void start() throws IOException {
        int port;
        try (ServerSocket free = new ServerSocket(0)) {
            port = free.getLocalPort();
        }
        browser = new PlainBrowser("http://localhost:" + port);
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
        browser.signIn("ana", PASSWORD);
        assertThat(browser.get("/counter").body()).contains("Drop files here");
    }

    private byte[] upload(byte[] stl) throws Exception {
        ByteArrayOutputStream body = new ByteArrayOutputStream();
        body.writeBytes(("--" + PlainBrowser.BOUNDARY + "\r\nContent-Disposition: form-data; name=\"token\"\r\n\r\n"
                + PlainBrowser.hidden(browser.get("/counter").body(), "token") + "\r\n--" + PlainBrowser.BOUNDARY
                + "\r\nContent-Disposition: form-data; name=\"file\"; filename=\"part.stl\"\r\n"
                + "Content-Type: model/stl\r\n\r\n").getBytes(StandardCharsets.US_ASCII));
        body.writeBytes(stl);
        body.writeBytes(("\r\n--" + PlainBrowser.BOUNDARY + "--\r\n").getBytes(StandardCharsets.US_ASCII));
        return body.toByteArray();
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
