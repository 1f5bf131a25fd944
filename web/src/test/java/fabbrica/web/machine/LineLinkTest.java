package fabbrica.web.machine;

import static org.assertj.core.api.Assertions.assertThat;

import fabbrica.core.recipe.BuiltIn;
import fabbrica.core.recipe.Printer;
import fabbrica.core.run.Command;
import fabbrica.core.run.MachineEvent;
import fabbrica.printsim.FastClock;
import fabbrica.printsim.Identity;
import fabbrica.printsim.Odds;
import fabbrica.printsim.PrinterServer;
import fabbrica.printsim.Truth;
import java.io.BufferedReader;
import java.io.Closeable;
import java.io.IOException;
import java.io.InputStream;
import java.io.InputStreamReader;
import java.io.OutputStream;
import java.net.InetAddress;
import java.net.ServerSocket;
import java.net.Socket;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Clock;
import java.time.Duration;
import java.util.Arrays;
import java.util.List;
import java.util.Optional;
import java.util.Random;
import java.util.concurrent.CopyOnWriteArrayList;
import java.util.concurrent.CountDownLatch;
import java.util.concurrent.TimeUnit;
import java.util.stream.Collectors;
import java.util.stream.IntStream;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

/** The host's end of a line at whose other end anything may be. */
class LineLinkTest {

    private static final Printer PRINTER = BuiltIn.printer("standard").orElseThrow();
    private static final Duration EVERY = Duration.ofMillis(20);

    private final List<MachineEvent> events = new CopyOnWriteArrayList<>();
    @TempDir
    private Path card;
    private LineLink link;

    /** What stands at the other end: each connection is dealt with by one of these, the last of them by all that come after. */
    private interface Peer {

        void talk(Socket socket) throws IOException;
    }

    private static final class Door implements Closeable {

        private final ServerSocket socket = new ServerSocket(0, 50, InetAddress.getLoopbackAddress());

        private Door(Peer... peers) throws IOException {
            Thread.ofVirtual().start(() -> {
                for (int i = 0; !socket.isClosed(); i++) {
                    try (Socket one = socket.accept()) {
                        peers[Math.min(i, peers.length - 1)].talk(one);
                    } catch (IOException e) {
                        // The host has gone.
                    }
                }
            });
        }

        private int port() {
            return socket.getLocalPort();
        }

        @Override
        public void close() throws IOException {
            socket.close();
        }
    }

    private void connect(int port) {
        link = new LineLink("127.0.0.1", port, EVERY, events::add);
    }

    @AfterEach
    void hangUp() {
        link.close();
    }

    private <T extends MachineEvent> T first(Class<T> kind) {
        return Until.there(kind.getSimpleName(), () -> events.stream().filter(kind::isInstance).map(kind::cast).findFirst());
    }

    private static void say(Socket socket, String text) throws IOException {
        socket.getOutputStream().write(text.getBytes(StandardCharsets.ISO_8859_1));
        socket.getOutputStream().flush();
    }

    @ParameterizedTest
    @ValueSource(longs = {1, 2, 3, 4, 5})
    void garbage_is_no_machine_and_the_line_is_tried_again(long seed) throws IOException {
        byte[] garbage = new byte[4000];
        new Random(seed).nextBytes(garbage);
        try (PrinterServer real = real(); Door door = new Door(socket -> socket.getOutputStream().write(garbage), socket -> pass(socket, real.port(), bytes -> bytes))) {
            connect(door.port());
            first(MachineEvent.Lost.class);
            assertThat(first(MachineEvent.Reached.class).uuid()).isEqualTo("8f3c");
        }
    }

    @Test
    void ten_megabytes_without_an_end_of_line_are_not_collected() throws IOException {
        byte[] much = new byte[1 << 20];
        Arrays.fill(much, (byte) 'x');
        try (Door door = new Door(socket -> {
            for (int i = 0; i < 10; i++) {
                socket.getOutputStream().write(much);
            }
        })) {
            connect(door.port());
            assertThat(first(MachineEvent.Lost.class).why()).isEqualTo("it sends no lines");
        }
    }

    @Test
    void answers_without_an_end_are_cut_off() throws IOException {
        String many = "echo:hello\n".repeat(1000);
        try (Door door = new Door(socket -> {
            say(socket, "start\n");
            while (true) {
                say(socket, many);
            }
        })) {
            connect(door.port());
            assertThat(first(MachineEvent.Lost.class).why()).isEqualTo("it talks without an end");
        }
    }

    @Test
    void silence_is_said_and_waited_for_no_longer_than_seconds() throws IOException {
        try (Door door = new Door(socket -> {
            say(socket, "start\n");
            socket.getInputStream().transferTo(OutputStream.nullOutputStream());
        })) {
            connect(door.port());
            assertThat(first(MachineEvent.Lost.class).why()).isEqualTo("it does not answer");
        }
    }

    @Test
    void nobody_at_the_address_is_said_and_what_it_is_told_is_refused_and_not_kept() throws IOException {
        int nobody;
        try (ServerSocket free = new ServerSocket(0)) {
            nobody = free.getLocalPort();
        }
        connect(nobody);
        assertThat(first(MachineEvent.Lost.class).why()).isEqualTo("nobody answers there");
        link.send(new Command.Start("a.gcode", "hash"));
        assertThat(first(MachineEvent.Refused.class).command()).isEqualTo(new Command.Start("a.gcode", "hash"));
    }

    @ParameterizedTest
    @ValueSource(longs = {11, 12, 13, 14, 15, 16})
    void over_a_noisy_line_a_file_arrives_as_it_was_or_is_said_not_to_have(long seed) throws IOException {
        Random noise = new Random(seed);
        byte[] file = IntStream.range(0, 4000).mapToObj(i -> "G1 X%d Y%d E%d".formatted(i % 200, i % 180, i)).collect(Collectors.joining("\n")).getBytes(StandardCharsets.US_ASCII);
        try (PrinterServer real = real(); Door door = new Door(socket -> pass(socket, real.port(), bytes -> noisy(bytes, noise)))) {
            connect(door.port());
            first(MachineEvent.Reported.class);
            link.send(new Command.Load("r7.gcode", file));
            MachineEvent end = Until.there("an answer", () -> events.stream().filter(event -> event instanceof MachineEvent.Loaded || event instanceof MachineEvent.Refused
                    || event instanceof MachineEvent.Lost).findFirst());
            Optional<String> on = Files.exists(card.resolve("r7.gcode")) ? Optional.of(Files.readString(card.resolve("r7.gcode"))) : Optional.empty();
            if (end instanceof MachineEvent.Loaded) {
                assertThat(on).contains(new String(file, StandardCharsets.US_ASCII) + "\n");
            }
        }
    }

    /** The machine is kept from answering, so that what it is told waits. */
    @Test
    void what_waits_when_everything_is_stopped_is_refused_and_not_done_afterwards() throws IOException {
        CountDownLatch answers = new CountDownLatch(1);
        List<String> told = new CopyOnWriteArrayList<>();
        try (Door door = new Door(socket -> {
            say(socket, "start\n");
            BufferedReader lines = new BufferedReader(new InputStreamReader(socket.getInputStream(), StandardCharsets.US_ASCII));
            for (String line = lines.readLine(); line != null; line = lines.readLine()) {
                told.add(line);
                await(line.contains("M105") ? answers : new CountDownLatch(0));
                say(socket, line.equals("M112") ? "" : line.contains("M105") ? "ok T:20 /0 B:20 /0\n" : "ok\n");
            }
        })) {
            connect(door.port());
            first(MachineEvent.Reached.class);
            Command start = new Command.Start("a.gcode", "hash");
            link.send(start);
            link.send(new Command.EmergencyStop());
            assertThat(first(MachineEvent.Refused.class)).isEqualTo(new MachineEvent.Refused(start, "it was stopped before"));
            answers.countDown();
            first(MachineEvent.Reported.class);
            assertThat(told).contains("M112").noneMatch(line -> line.contains("M24"));
        }
    }

    private static void await(CountDownLatch latch) {
        try {
            assertThat(latch.await(1, TimeUnit.MINUTES)).isTrue();
        } catch (InterruptedException e) {
            throw new IllegalStateException(e);
        }
    }

    @Test
    void packets_may_be_split_anywhere() throws IOException {
        try (PrinterServer real = real(); Door door = new Door(socket -> pass(socket, real.port(), bytes -> bytes))) {
            connect(door.port());
            first(MachineEvent.Reported.class);
            link.send(new Command.Load("r8.gcode", "G28\nG1 X10\n".getBytes(StandardCharsets.US_ASCII)));
            assertThat(first(MachineEvent.Loaded.class).checked()).isTrue();
        }
    }

    private PrinterServer real() throws IOException {
        return new PrinterServer(0, PRINTER, new Identity("8f3c", "Standard bench", true), Truth.EXACT, Odds.NEVER, card, FastClock.of(Clock.systemUTC(), 60), 1);
    }

    /** Anything may happen to bytes on their way to the machine. */
    private interface Noise {

        byte[] on(byte[] bytes);
    }

    /** One byte in a thousand is another one. */
    private static byte[] noisy(byte[] bytes, Random noise) {
        byte[] heard = bytes.clone();
        for (int i = 0; i < heard.length; i++) {
            if (heard[i] != '\n' && noise.nextInt(1000) == 0) {
                heard[i] = (byte) ('!' + noise.nextInt(90));
            }
        }
        return heard;
    }

    /** Passes on what is said both ways, a few bytes at a time. */
    private static void pass(Socket host, int port, Noise noise) throws IOException {
        try (Socket machine = new Socket(InetAddress.getLoopbackAddress(), port)) {
            Thread.ofVirtual().start(() -> {
                try {
                    copy(machine.getInputStream(), host.getOutputStream(), bytes -> bytes);
                } catch (IOException e) {
                    // One of them has gone.
                }
            });
            copy(host.getInputStream(), machine.getOutputStream(), noise);
        }
    }

    private static void copy(InputStream from, OutputStream to, Noise noise) throws IOException {
        byte[] some = new byte[701];
        int count;
        while ((count = from.read(some)) >= 0) {
            to.write(noise.on(Arrays.copyOf(some, count)));
            to.flush();
        }
    }
}
