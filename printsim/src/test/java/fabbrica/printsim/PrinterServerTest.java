package fabbrica.printsim;

import static org.assertj.core.api.Assertions.assertThat;

import fabbrica.core.mesh.model.Shapes;
import java.awt.image.BufferedImage;
import java.io.BufferedReader;
import java.io.Closeable;
import java.io.IOException;
import java.io.InputStreamReader;
import java.net.InetAddress;
import java.net.Socket;
import java.net.URI;
import java.nio.charset.StandardCharsets;
import java.nio.file.Path;
import java.time.Clock;
import java.util.stream.IntStream;
import javax.imageio.ImageIO;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.Timeout;
import org.junit.jupiter.api.io.TempDir;

@Timeout(60)
class PrinterServerTest {

    private static final Files BOX = Files.of(Shapes.box(20, 20, 6));
    private static final int PATIENCE_MS = 60_000;

    @TempDir
    private Path card;
    private PrinterServer server;

    /** Whoever is at the other end, by hand. */
    private final class Line implements Closeable {

        private final Socket socket = new Socket(InetAddress.getLoopbackAddress(), server.port());
        private final BufferedReader in = new BufferedReader(new InputStreamReader(socket.getInputStream(), StandardCharsets.UTF_8));

        private Line() throws IOException {
            socket.setSoTimeout(PATIENCE_MS);
        }

        private void send(String text) throws IOException {
            socket.getOutputStream().write((text + "\n").getBytes(StandardCharsets.UTF_8));
        }

        private String until(String start) throws IOException {
            String line;
            while ((line = in.readLine()) != null && !line.startsWith(start)) {
                assertThat(line).doesNotStartWith("!!");
            }
            return line == null ? "" : line;
        }

        @Override
        public void close() throws IOException {
            socket.close();
        }
    }

    @BeforeEach
    void on() throws IOException {
        java.nio.file.Files.write(card.resolve("R1.GCO"), BOX.bytes());
        server = new PrinterServer(0, Files.STANDARD, new Identity("8f3c", "Standard", true), Truth.EXACT, Odds.NEVER, card, FastClock.of(Clock.systemUTC(), 600), 1);
    }

    @AfterEach
    void off() throws IOException {
        server.close();
    }

    @Test
    void it_prints_a_file_from_its_card_and_says_when_it_is_done() throws IOException {
        try (Line line = new Line()) {
            assertThat(line.until("start")).isEqualTo("start");
            line.send("M155 S30\nM23 R1.GCO\nM24");
            assertThat(line.until(" T:")).startsWith(" T:");
            assertThat(line.until("Done printing file")).isEqualTo("Done printing file");
        }
    }

    @Test
    void one_host_at_a_time_is_at_the_line() throws IOException {
        try (Line first = new Line()) {
            first.until("start");
            try (Line second = new Line()) {
                assertThat(second.until("Error:busy")).isEqualTo("Error:busy, another host is at the line");
                assertThat(second.in.readLine()).isNull();
            }
            first.send("M105");
            assertThat(first.until("ok")).startsWith("ok T:");
        }
        String answer = "";
        while (answer.isEmpty()) {
            try (Line third = new Line()) {
                answer = third.until("start");
            }
        }
    }

    @Test
    void what_happens_if_can_be_said_in_one_line() throws IOException {
        server.whenLayer(7, Fault.OFF_BED);
        try (Line line = new Line()) {
            line.send("M23 R1.GCO\nM24");
            assertThat(line.until("//action:paused")).isEqualTo("//action:paused the part has come off the bed");
            line.send("M408 S0");
            assertThat(line.until("{")).contains("\"currentLayer\":7");
        }
    }

    @Test
    void its_camera_shows_what_has_been_laid() throws IOException {
        BufferedImage empty = look();
        server.whenLayer(20, Fault.DOOR_OPEN);
        try (Line line = new Line()) {
            line.send("M23 R1.GCO\nM24");
            line.until("//action:paused");
            BufferedImage whole = look();
            assertThat(whole.getWidth()).isEqualTo(640);
            assertThat(differing(empty, whole)).as("a box of 20 mm on a bed of 220 mm").isBetween(1000L, 20_000L);
            line.send("M524\nM23 R1.GCO");
            line.until("File selected");
            server.whenLayer(20, Fault.OFF_BED);
            line.send("M24");
            line.until("//action:paused");
            assertThat(differing(whole, look())).as("strings").isGreaterThan(100);
        }
    }

    private BufferedImage look() throws IOException {
        return ImageIO.read(URI.create("http://localhost:%d/picture.png".formatted(server.cameraPort())).toURL());
    }

    private static long differing(BufferedImage one, BufferedImage other) {
        return IntStream.range(0, one.getWidth() * one.getHeight()).filter(i -> one.getRGB(i % one.getWidth(), i / one.getWidth())
                != other.getRGB(i % one.getWidth(), i / one.getWidth())).count();
    }

    @Test
    void with_the_power_goes_the_line() throws IOException {
        try (Line line = new Line()) {
            line.until("start");
            server.happen(Fault.POWER_CUT);
            assertThat(line.until("never")).isEmpty();
        }
    }
}
