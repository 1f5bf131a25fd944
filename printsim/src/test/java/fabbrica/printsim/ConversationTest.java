package fabbrica.printsim;

import static org.assertj.core.api.Assertions.assertThat;

import fabbrica.core.mesh.model.Shapes;
import fabbrica.printsim.SimulatedPrinter.Doing;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Path;
import java.security.MessageDigest;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.HexFormat;
import java.util.List;
import java.util.Random;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** The line protocol as the RepRap project's G-code list has it: numbered lines with checksum, ok, resend, temperatures, files on the card. */
class ConversationTest {

    private static final Instant ON = Instant.parse("2031-05-05T08:00:00Z");
    private static final Files BOX = Files.of(Shapes.box(20, 20, 6));

    @TempDir
    private Path folder;
    private final List<String> answers = new ArrayList<>();
    private final SimulatedPrinter printer = new SimulatedPrinter(Files.STANDARD, Truth.EXACT, Odds.NEVER, new Random(1), ON);
    private Conversation conversation;
    private int number;

    @BeforeEach
    void at() throws IOException {
        conversation = with(new Identity("8f3c", "Standard", true), 1 << 20);
    }

    private Conversation with(Identity identity, long cardBytes) throws IOException {
        Card card = new Card(folder, cardBytes);
        return new Conversation(printer, identity, new Conversation.Shelf() {
            @Override
            public Card card() {
                return card;
            }

            @Override
            public Program program(String name) throws IOException {
                return Program.of(name, card.read(name).orElseThrow(() -> new Refused("there is no file " + name)), Files.STANDARD);
            }
        }, answers::add);
    }

    private List<String> raw(String text) {
        answers.clear();
        byte[] bytes = text.getBytes(StandardCharsets.UTF_8);
        conversation.accept(bytes, bytes.length);
        return List.copyOf(answers);
    }

    private List<String> send(String command) {
        return raw(numbered(++number, command) + "\n");
    }

    private static String numbered(int number, String command) {
        String line = "N" + number + " " + command;
        int sum = 0;
        for (byte each : line.getBytes(StandardCharsets.UTF_8)) {
            sum ^= each;
        }
        return line + "*" + (sum & 0xFF);
    }

    private void upload(String name) {
        send("M28 " + name);
        new String(BOX.bytes(), StandardCharsets.UTF_8).lines().forEach(this::send);
        assertThat(send("M29")).containsExactly("Done saving file.", "ok");
    }

    /** The example of a checksum in the RepRap project's G-code list: N3 T0*57. */
    @Test
    void the_checksum_is_the_exclusive_or_of_what_stands_before_the_asterisk() {
        assertThat(numbered(3, "T0")).isEqualTo("N3 T0*57");
        assertThat(Conversation.checksum("N3 T0", 5)).isEqualTo(57);
    }

    @Test
    void a_line_that_does_not_match_or_is_not_the_next_is_asked_for_again() {
        assertThat(send("M110 N0")).containsExactly("ok");
        assertThat(raw("N2 M105*0\n")).containsExactly("Error:checksum mismatch, Last Line: 1", "Resend: 2", "ok");
        assertThat(raw("N2 M105\n")).containsExactly("Error:No Checksum with line number, Last Line: 1", "Resend: 2", "ok");
        assertThat(raw(numbered(7, "M105") + "\n")).containsExactly("Error:Line Number is not Last Line Number+1, Last Line: 1", "Resend: 2", "ok");
        assertThat(raw(numbered(2, "M105") + "\n")).containsExactly("ok T:20.0 /0.0 B:20.0 /0.0");
        assertThat(raw(numbered(500, "M110") + "\n" + numbered(501, "M105") + "\n")).last().isEqualTo("ok T:20.0 /0.0 B:20.0 /0.0");
    }

    @Test
    void it_says_who_it_is_and_what_it_can() {
        assertThat(send("M115")).containsExactly("FIRMWARE_NAME:Simulated PROTOCOL_VERSION:1.0 MACHINE_TYPE:Standard EXTRUDER_COUNT:1 UUID:8f3c", "Cap:AUTOREPORT_TEMP:1",
                "Cap:FILE_SHA256:1", "Cap:RUN_REPORT:1", "ok");
    }

    @Test
    void a_file_comes_to_the_card_as_it_was_sent_and_its_hash_is_read_back() throws Exception {
        upload("R12.GCO");
        String hash = HexFormat.of().formatHex(MessageDigest.getInstance("SHA-256").digest(BOX.bytes()));
        assertThat(send("M38 R12.GCO")).containsExactly("SHA256:%s File:R12.GCO".formatted(hash), "ok");
        assertThat(send("M20")).containsExactly("Begin file list", "R12.GCO " + BOX.bytes().length, "End file list", "ok");
        java.nio.file.Files.writeString(folder.resolve("R12.GCO"), "G28\n");
        assertThat(send("M38 R12.GCO").getFirst()).doesNotContain(hash);
        assertThat(send("M38 OTHER.GCO")).containsExactly("Cannot find file", "ok");
        assertThat(send("M30 R12.GCO")).containsExactly("File deleted:R12.GCO", "ok");
    }

    @Test
    void a_machine_without_that_extension_does_not_know_the_command() throws IOException {
        conversation = with(new Identity("8f3c", "Standard", false), 1 << 20);
        assertThat(send("M115")).contains("Cap:FILE_SHA256:0");
        assertThat(send("M38 R12.GCO")).containsExactly("echo:Unknown command: \"M38\"", "ok");
    }

    @Test
    void a_file_is_selected_started_watched_paused_and_gone_on_with() {
        upload("R12.GCO");
        assertThat(send("M24")).containsExactly("Error:no file is selected", "ok");
        assertThat(send("M23 R13.GCO")).containsExactly("open failed, File: R13.GCO.", "ok");
        assertThat(send("M23 R12.GCO")).containsExactly("File opened: R12.GCO Size: " + BOX.bytes().length, "File selected", "ok");
        assertThat(send("M27")).containsExactly("Not SD printing", "ok");
        assertThat(send("M24")).containsExactly("ok");
        printer.passTo(ON.plus(Duration.ofSeconds(Math.round(BOX.estimate().totalSeconds() * 0.9))));
        assertThat(send("M27").getFirst()).matches("SD printing byte \\d{4,}/" + BOX.bytes().length);
        assertThat(send("M27 C")).containsExactly("Current file: R12.GCO", "ok");
        assertThat(send("M105")).containsExactly("ok T:210.0 /210.0 B:60.0 /60.0");
        send("M25");
        assertThat(send("M27").getFirst()).startsWith("SD print paused at byte ");
        send("M24");
        assertThat(send("M408 S0").getFirst()).startsWith("{\"status\":\"P\"").contains("\"file\":\"R12.GCO\"");
        assertThat(send("M28 R13.GCO")).containsExactly("Error:it is at another file", "ok");
        printer.passTo(ON.plus(Duration.ofHours(4)));
        assertThat(send("M408 S0").getFirst()).startsWith("{\"status\":\"I\"").contains("\"last\":{\"file\":\"R12.GCO\",\"whole\":true");
    }

    @Test
    void an_emergency_stop_takes_everything_off_and_only_a_restart_helps() {
        upload("R12.GCO");
        send("M23 R12.GCO");
        send("M24");
        printer.passTo(ON.plus(Duration.ofMinutes(3)));
        send("M112");
        assertThat(printer.standing()).matches(standing -> standing.doing() == Doing.HALTED && standing.bedTargetC() == 0);
        assertThat(send("M24").getFirst()).startsWith("Error:it is stopped");
        send("M999");
        assertThat(send("M24")).containsExactly("ok");
    }

    @Test
    void a_full_card_and_a_name_that_is_none_are_refused() throws IOException {
        conversation = with(new Identity("8f3c", "Standard", true), 30);
        send("M28 R1.GCO");
        assertThat(send("G1 X10 Y10 Z10 E10")).containsExactly("ok");
        assertThat(send("G1 X10 Y10 Z10 E10")).containsExactly("Error:the card is full", "ok");
        assertThat(send("M20")).containsExactly("Begin file list", "End file list", "ok");
        assertThat(send("M28 ../R1.GCO")).containsExactly("Error:“../R1.GCO” is no name for a file", "ok");
    }

    @Test
    void half_a_file_is_none_when_the_host_goes() throws IOException {
        send("M28 R1.GCO");
        send("G28");
        conversation.over();
        assertThat(java.nio.file.Files.list(folder)).isEmpty();
        assertThat(send("G28")).containsExactly("ok");
    }

    @Test
    void ten_megabytes_without_a_line_end_are_thrown_away_and_told_once() {
        byte[] much = new byte[1 << 16];
        java.util.Arrays.fill(much, (byte) 'x');
        for (int i = 0; i < 160; i++) {
            conversation.accept(much, much.length);
        }
        assertThat(answers).containsExactly("Error:Line too long, Last Line: 0", "Resend: 1", "ok");
        raw("\n");
        assertThat(send("M105")).containsExactly("ok T:20.0 /0.0 B:20.0 /0.0");
    }

    @Test
    void lines_come_in_any_pieces() {
        byte[] bytes = (numbered(1, "M110 N0") + "\r\n" + numbered(1, "M105") + "\n").getBytes(StandardCharsets.UTF_8);
        for (byte each : bytes) {
            conversation.accept(new byte[] {each}, 1);
        }
        assertThat(answers.getFirst()).isEqualTo("ok");
        assertThat(answers).hasSizeGreaterThan(1);
    }

    @Test
    void whatever_comes_it_answers_and_never_moves_on_a_line_that_was_torn() {
        Random random = new Random(3);
        upload("R1.GCO");
        send("M23 R1.GCO");
        String start = numbered(number + 1, "M24");
        for (int round = 0; round < 3000; round++) {
            byte[] bytes = start.getBytes(StandardCharsets.UTF_8);
            // An exclusive or sees every fault within one byte; of several some cancel out.
            bytes[1 + random.nextInt(bytes.length - 1)] ^= (byte) (1 << random.nextInt(7));
            String torn = round % 2 == 0 ? new String(bytes, StandardCharsets.ISO_8859_1) : start.substring(0, 1 + random.nextInt(start.length() - 1));
            raw(torn + "\n");
            byte[] garbage = new byte[random.nextInt(200)];
            random.nextBytes(garbage);
            garbage = new String(garbage, StandardCharsets.ISO_8859_1).replace('M', '?').replace('m', '?').getBytes(StandardCharsets.ISO_8859_1);
            conversation.accept(garbage, garbage.length);
            raw("\n");
        }
        assertThat(printer.standing().doing()).isEqualTo(Doing.IDLE);
        assertThat(send("M105")).containsExactly("ok T:20.0 /0.0 B:20.0 /0.0");
    }
}
