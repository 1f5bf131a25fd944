package fabbrica.printsim;

import fabbrica.printsim.SimulatedPrinter.Doing;
import fabbrica.printsim.SimulatedPrinter.Standing;
import java.io.IOException;
import java.io.UncheckedIOException;
import java.nio.charset.StandardCharsets;
import java.util.Locale;
import java.util.Map;
import java.util.function.Consumer;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import org.jspecify.annotations.Nullable;

/**
 * What is said between a host and a machine, line by line: the line protocol as the RepRap project's G-code list has it. Lines may be numbered, with
 * the exclusive or of all bytes before the asterisk behind it; one that does not match, or is not the next, is asked for again. Each line is answered
 * with {@code ok}. Two extensions are named among the capabilities in the answer to M115: {@code FILE_SHA256}, by which M38 answers with the hash of
 * a file, and {@code RUN_REPORT}, by which M408 tells of the run in one line of JSON.
 */
final class Conversation implements LineSplitter.Lines {

    private static final Pattern COMMAND = Pattern.compile("\\s*([GMT])(\\d{1,5})(?:\\.\\d+)?\\s*(.*)", Pattern.CASE_INSENSITIVE);
    private static final Pattern NUMBERED = Pattern.compile("N(\\d{1,9})\\s?(.*)", Pattern.CASE_INSENSITIVE | Pattern.DOTALL);
    /** Without a number it goes past everything, a file that is being written among it. */
    private static final String EMERGENCY = "M112";
    private static final Pattern WORD = Pattern.compile("([A-Z])\\s*(-?\\d+(?:\\.\\d+)?)", Pattern.CASE_INSENSITIVE);

    private final SimulatedPrinter printer;
    private final Identity identity;
    private final Shelf shelf;
    private final Consumer<String> answers;
    private final LineSplitter splitter = new LineSplitter(this);
    private long lastNumber;
    private String selected = "";
    private Card.@Nullable Writing writing;
    private double reportEveryS;
    private double reportedAtS;

    /** What is on a machine's card. */
    interface Shelf {

        Card card();

        /** @throws Refused when there is no such file, or it makes no sense */
        Program program(String name) throws IOException;
    }

    Conversation(SimulatedPrinter printer, Identity identity, Shelf shelf, Consumer<String> answers) {
        this.printer = printer;
        this.identity = identity;
        this.shelf = shelf;
        this.answers = answers;
    }

    void accept(byte[] bytes, int count) {
        splitter.accept(bytes, count);
    }

    /** Tells the temperatures again when it has been asked to, so many seconds after it was made. */
    void report(double seconds) {
        if (reportEveryS > 0 && seconds - reportedAtS >= reportEveryS) {
            reportedAtS = seconds;
            answers.accept(" " + temperatures());
        }
    }

    /** The host has gone: half a file is none. */
    void over() {
        Card.Writing half = writing;
        writing = null;
        if (half != null) {
            try {
                half.abandon();
            } catch (IOException e) {
                throw new UncheckedIOException(e);
            }
        }
    }

    @Override
    public void tooLong() {
        again("Line too long");
    }

    @Override
    public void line(byte[] bytes, int length) {
        // Bytes as they are, so that what is written to the card is what was sent.
        String line = new String(bytes, 0, length, StandardCharsets.ISO_8859_1);
        Matcher numbered = NUMBERED.matcher(line);
        if (!numbered.matches()) {
            if (line.strip().equalsIgnoreCase(EMERGENCY)) {
                over();
            }
            carryOut(line);
            return;
        }
        int star = line.lastIndexOf('*');
        long number = Long.parseLong(numbered.group(1));
        if (star < 0) {
            again("No Checksum with line number");
        } else if (!line.substring(star + 1).strip().equals(Integer.toString(checksum(line, star)))) {
            again("checksum mismatch");
        } else {
            String command = line.substring(numbered.start(2), star);
            boolean sets = command.stripLeading().toUpperCase(Locale.ROOT).startsWith("M110");
            if (!sets && number != lastNumber + 1) {
                again("Line Number is not Last Line Number+1");
            } else {
                lastNumber = number;
                carryOut(command);
            }
        }
    }

    static int checksum(String line, int to) {
        int sum = 0;
        for (int i = 0; i < to; i++) {
            sum ^= line.charAt(i);
        }
        return sum & 0xFF;
    }

    private void again(String why) {
        answers.accept("Error:%s, Last Line: %d".formatted(why, lastNumber));
        answers.accept("Resend: " + (lastNumber + 1));
        answers.accept("ok");
    }

    private void carryOut(String line) {
        try {
            if (writing != null && !line.strip().equalsIgnoreCase("M29")) {
                byte[] bytes = line.getBytes(StandardCharsets.ISO_8859_1);
                writing.line(bytes, 0, bytes.length);
                answers.accept("ok");
                return;
            }
            Matcher command = COMMAND.matcher(line.replaceFirst(";.*", ""));
            if (command.matches()) {
                answer(command.group(1).toUpperCase(Locale.ROOT).charAt(0), Integer.parseInt(command.group(2)), command.group(3).strip());
            } else {
                if (!line.isBlank() && !line.strip().startsWith(";")) {
                    answers.accept("echo:Unknown command: \"%s\"".formatted(line.strip()));
                }
                answers.accept("ok");
            }
        } catch (Refused refused) {
            writing = null;
            answers.accept("Error:" + refused.getMessage());
            answers.accept("ok");
        } catch (IOException e) {
            writing = null;
            answers.accept("Error:the card cannot be read or written");
            answers.accept("ok");
        }
    }

    private void answer(char letter, int code, String rest) throws IOException {
        if (letter == 'M' && code == 105) {
            answers.accept("ok " + temperatures());
            return;
        }
        if (letter == 'M') {
            m(code, rest);
        }
        answers.accept("ok");
    }

    private void m(int code, String rest) throws IOException {
        switch (code) {
            case 20 -> list();
            case 23 -> select(rest);
            case 24 -> start();
            case 25 -> printer.pause("by the host");
            case 27 -> progress(rest);
            case 28 -> {
                over();
                requireIdle(rest);
                writing = shelf.card().write(rest);
                answers.accept("Writing to file: " + rest);
            }
            case 29 -> {
                Card.Writing whole = writing;
                writing = null;
                if (whole != null) {
                    whole.close();
                    answers.accept("Done saving file.");
                }
            }
            case 30 -> {
                requireIdle(rest);
                answers.accept(shelf.card().delete(rest) ? "File deleted:" + rest : "Deletion failed, File: " + rest);
            }
            case 38 -> {
                if (!identity.hashes()) {
                    answers.accept("echo:Unknown command: \"M38\"");
                } else {
                    answers.accept(shelf.card().sha256(rest).map(hash -> "SHA256:%s File:%s".formatted(hash, rest)).orElse("Cannot find file"));
                }
            }
            case 104, 109 -> printer.heatNozzle(word(rest, 'S', 0));
            case 112 -> printer.halt("Emergency stop: heaters and motors are off");
            case 114 -> answers.accept(String.format(Locale.ROOT, "X:0.00 Y:0.00 Z:0.00 E:%.2f", printer.standing().filamentMm()));
            case 115 -> who();
            case 140, 190 -> printer.heatBed(word(rest, 'S', 0));
            case 155 -> reportEveryS = word(rest, 'S', 0);
            case 408 -> answers.accept(run());
            case 524 -> printer.cancel();
            case 999 -> printer.restart();
            case 26, 31, 73, 82, 83, 84, 106, 107, 108, 110, 117, 118, 220, 221, 400 -> {
            }
            default -> answers.accept("echo:Unknown command: \"M%d\"".formatted(code));
        }
    }

    private void who() {
        answers.accept("FIRMWARE_NAME:Simulated PROTOCOL_VERSION:1.0 MACHINE_TYPE:%s EXTRUDER_COUNT:1 UUID:%s".formatted(identity.name(), identity.uuid()));
        answers.accept("Cap:AUTOREPORT_TEMP:1");
        answers.accept("Cap:FILE_SHA256:" + (identity.hashes() ? 1 : 0));
        answers.accept("Cap:RUN_REPORT:1");
    }

    private void list() throws IOException {
        answers.accept("Begin file list");
        for (Map.Entry<String, Long> file : shelf.card().files().entrySet()) {
            answers.accept(file.getKey() + " " + file.getValue());
        }
        answers.accept("End file list");
    }

    private void select(String name) throws IOException {
        requireIdle(name);
        Long size = shelf.card().files().get(name);
        if (size == null) {
            selected = "";
            answers.accept("open failed, File: " + name + ".");
        } else {
            selected = name;
            answers.accept("File opened: %s Size: %d".formatted(name, size));
            answers.accept("File selected");
        }
    }

    private void start() throws IOException {
        if (printer.standing().doing() == Doing.PAUSED) {
            printer.resume();
        } else if (selected.isEmpty()) {
            throw new Refused("no file is selected");
        } else {
            printer.start(shelf.program(selected));
        }
    }

    private void progress(String rest) {
        Standing at = printer.standing();
        if (rest.equalsIgnoreCase("C")) {
            answers.accept("Current file: " + (at.file().isEmpty() ? "(no file)" : at.file()));
        } else if (at.file().isEmpty()) {
            answers.accept("Not SD printing");
        } else {
            answers.accept("SD %s byte %d/%d".formatted(at.doing() == Doing.PAUSED ? "print paused at" : "printing", at.byteAt(), at.bytes()));
        }
    }

    /** Status letters as the list has them; the last run goes with it. */
    private String run() {
        Standing at = printer.standing();
        String status = switch (at.doing()) {
            case IDLE -> "I";
            case PRINTING -> "P";
            case PAUSED -> "A";
            case HALTED -> "H";
        };
        String last = printer.ended().map(ended -> String.format(Locale.ROOT, ",\"last\":{\"file\":\"%s\",\"whole\":%b,\"layer\":%d,\"filamentMm\":%.2f,\"seconds\":%.1f,\"heating\":%.1f,\"readying\":%.1f,\"paused\":%.1f}",
                ended.file(), ended.whole(), ended.layer(), ended.filamentMm(), ended.seconds(), ended.heatingS(), ended.readyingS(),
                ended.pausedS())).orElse("");
        return String.format(Locale.ROOT, "{\"status\":\"%s\",\"heaters\":[%.1f,%.1f],\"active\":[%.1f,%.1f],\"file\":\"%s\",\"byte\":%d,\"bytes\":%d,\"currentLayer\":%d,"
                + "\"extrRaw\":[%.2f],\"printDuration\":%.1f%s}", status, at.bedC(), at.nozzleC(), at.bedTargetC(), at.nozzleTargetC(), at.file(), at.byteAt(), at.bytes(),
                at.layer(), at.filamentMm(), at.elapsedS(), last);
    }

    private String temperatures() {
        Standing at = printer.standing();
        return String.format(Locale.ROOT, "T:%.1f /%.1f B:%.1f /%.1f", at.nozzleC(), at.nozzleTargetC(), at.bedC(), at.bedTargetC());
    }

    private void requireIdle(String file) {
        if (!printer.standing().file().isEmpty()) {
            throw new Refused("it is at %s".formatted(printer.standing().file().equals(file) ? "that file" : "another file"));
        }
    }

    private static double word(String rest, char letter, double otherwise) {
        Matcher words = WORD.matcher(rest);
        while (words.find()) {
            if (Character.toUpperCase(words.group(1).charAt(0)) == letter) {
                return Double.parseDouble(words.group(2));
            }
        }
        return otherwise;
    }
}
