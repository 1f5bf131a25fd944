package fabbrica.cli;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.BufferedReader;
import java.io.IOException;
import java.io.InputStreamReader;
import java.io.PipedInputStream;
import java.io.PipedOutputStream;
import java.io.PrintWriter;
import java.net.InetAddress;
import java.net.Socket;
import java.nio.charset.StandardCharsets;
import java.nio.file.Path;
import java.util.concurrent.CompletableFuture;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import org.apache.commons.cli.ParseException;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.Timeout;
import org.junit.jupiter.api.io.TempDir;

@Timeout(60)
class PrinterCommandTest {

    @TempDir
    private Path card;

    @Test
    void a_printer_answers_on_its_line_until_its_input_ends() throws Exception {
        try (PipedOutputStream typed = new PipedOutputStream(); PipedOutputStream shown = new PipedOutputStream();
             BufferedReader out = new BufferedReader(new InputStreamReader(new PipedInputStream(shown), StandardCharsets.UTF_8))) {
            PrintWriter both = new PrintWriter(shown, true, StandardCharsets.UTF_8);
            PrinterCommand command = new PrinterCommand(new PipedInputStream(typed), both, both);
            CompletableFuture<Integer> over = CompletableFuture.supplyAsync(() -> run(command));
            Matcher listens = Pattern.compile("Bench listens at port (\\d+), its camera at \\d+; its time goes 60 times as fast\\.").matcher(out.readLine());
            assertThat(listens.matches()).isTrue();
            try (Socket line = new Socket(InetAddress.getLoopbackAddress(), Integer.parseInt(listens.group(1)))) {
                BufferedReader answers = new BufferedReader(new InputStreamReader(line.getInputStream(), StandardCharsets.UTF_8));
                line.getOutputStream().write("M115\n".getBytes(StandardCharsets.UTF_8));
                assertThat(answers.readLine()).isEqualTo("start");
                assertThat(answers.readLine()).contains("MACHINE_TYPE:Bench");
                typed.write("off-bed 31\nfire\npower-cut\n".getBytes(StandardCharsets.UTF_8));
                typed.flush();
                assertThat(out.readLine()).isEqualTo("Done.");
                assertThat(out.readLine()).startsWith("Type one of off-bed, clog");
                assertThat(out.readLine()).isEqualTo("Done.");
                assertThat(answers.lines().toList()).endsWith("ok");
            }
            typed.close();
            assertThat(over.join()).isZero();
        }
    }

    private int run(PrinterCommand command) {
        try {
            return command.run(Arguments.parse(new String[] {"--port", "0", "--speed", "60", "--card", card.toString(), "--name", "Bench", "--flawless"}));
        } catch (IOException | ParseException e) {
            throw new IllegalStateException(e);
        }
    }
}
