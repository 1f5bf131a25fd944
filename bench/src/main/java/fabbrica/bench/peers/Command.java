package fabbrica.bench.peers;

import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.concurrent.TimeUnit;
import java.util.regex.Matcher;
import java.util.regex.Pattern;

/**
 * A command that is measured as a whole process.
 *
 * @param ownClock what it calls the seconds that count in what it prints; empty where the whole process counts
 */
record Command(String name, String ownClock, List<String> words) {

    private static final Pattern PEAK = Pattern.compile("VmHWM:\\s+(\\d+) kB");
    private static final int LOOK_MS = 5;

    /** @param words what it is to do, apart by spaces */
    static Command ours(String fabbrica, String words, Path file) {
        List<String> all = new ArrayList<>(List.of(fabbrica));
        all.addAll(List.of(words.split(" ")));
        all.add(file.toString());
        return new Command("`" + words + "`", "", all);
    }

    /** @param peakBytes the most memory it held, as last seen a few milliseconds before its end */
    record Took(double seconds, long peakBytes) {
    }

    /** @throws IOException with what it printed when it does not end well */
    Took run() throws IOException, InterruptedException {
        Path printed = Files.createTempFile("printed", ".txt");
        try {
            long start = System.nanoTime();
            Process process = new ProcessBuilder(words).redirectErrorStream(true).redirectOutput(printed.toFile()).start();
            long peak = 0;
            while (!process.waitFor(LOOK_MS, TimeUnit.MILLISECONDS)) {
                peak = Math.max(peak, peak(process.pid()));
            }
            double seconds = (System.nanoTime() - start) / 1e9;
            String text = Files.readString(printed, StandardCharsets.UTF_8);
            if (process.exitValue() != 0) {
                throw new IOException(String.join(" ", words) + ": " + text);
            }
            return new Took(ownClock.isEmpty() ? seconds : clock(text), peak);
        } finally {
            Files.delete(printed);
        }
    }

    private double clock(String text) throws IOException {
        Matcher told = Pattern.compile('"' + ownClock + "\":([0-9.]+)").matcher(text);
        if (!told.find()) {
            throw new IOException("%s did not tell %s: %s".formatted(name, ownClock, text));
        }
        return Double.parseDouble(told.group(1));
    }

    private static long peak(long process) {
        try {
            Matcher peak = PEAK.matcher(Files.readString(Path.of("/proc", Long.toString(process), "status")));
            return peak.find() ? 1024 * Long.parseLong(peak.group(1)) : 0;
        } catch (IOException overInTheMeantime) {
            return 0;
        }
    }
}
