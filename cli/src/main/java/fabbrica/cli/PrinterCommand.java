package fabbrica.cli;

import fabbrica.core.recipe.Printer;
import fabbrica.core.units.OutOfRange;
import fabbrica.printsim.FastClock;
import fabbrica.printsim.Fault;
import fabbrica.printsim.Identity;
import fabbrica.printsim.Odds;
import fabbrica.printsim.PrinterServer;
import fabbrica.printsim.Truth;
import java.io.BufferedReader;
import java.io.IOException;
import java.io.InputStream;
import java.io.InputStreamReader;
import java.io.PrintWriter;
import java.nio.charset.StandardCharsets;
import java.nio.file.Path;
import java.time.Clock;
import java.util.Arrays;
import java.util.Locale;
import java.util.UUID;
import java.util.concurrent.CountDownLatch;
import org.apache.commons.cli.ParseException;

/**
 * {@code printer --port N --speed 60}: a simulated printer on a line of its own. Lines typed meanwhile make things go wrong: {@code off-bed 31} when
 * layer 31 of the next run begins, {@code power-cut} now.
 */
record PrinterCommand(InputStream in, PrintWriter out, PrintWriter err) implements Fabbrica.Command {

    private static final String USUAL = "standard";

    @Override
    public int run(Arguments arguments) throws IOException, ParseException {
        Printer figures = PrintArguments.printer(arguments, USUAL);
        int port = (int) OutOfRange.check("--port", arguments.count("port", 0), 0, 65_535);
        int speed = (int) OutOfRange.check("--speed", arguments.count("speed", 1), 1, FastClock.FASTEST);
        String name = arguments.word("name").orElse(figures.name());
        String uuid = UUID.nameUUIDFromBytes(name.getBytes(StandardCharsets.UTF_8)).toString();
        Path card = Path.of(arguments.word("card").orElseThrow(() -> new ParseException("Name the folder that is its card with --card.")));
        Truth truth = new Truth(1, 1, arguments.number("slower", 1), 1, arguments.number("noise", 0.05));
        Odds odds = arguments.flawless() ? Odds.NEVER : Odds.USUAL;
        try (PrinterServer server = new PrinterServer(port, figures, new Identity(uuid, name, true), truth, odds, card,
                FastClock.of(Clock.systemUTC(), speed), System.nanoTime())) {
            out.printf("%s listens at port %d, its camera at %d; its time goes %d times as fast.%n", name, server.port(), server.cameraPort(), speed);
            follow(server);
        }
        return Fabbrica.FINE;
    }

    /** Until the input ends; where there is none, until the process does. */
    private void follow(PrinterServer server) throws IOException {
        BufferedReader lines = new BufferedReader(new InputStreamReader(in, StandardCharsets.UTF_8));
        String line;
        boolean any = false;
        while ((line = lines.readLine()) != null) {
            any = true;
            carryOut(line.strip(), server);
        }
        if (!any) {
            try {
                new CountDownLatch(1).await();
            } catch (InterruptedException e) {
                Thread.currentThread().interrupt();
            }
        }
    }

    private void carryOut(String line, PrinterServer server) {
        String[] words = line.split("\\s+", 2);
        try {
            Fault fault = Fault.valueOf(words[0].toUpperCase(Locale.ROOT).replace('-', '_'));
            if (words.length > 1) {
                server.whenLayer(Integer.parseInt(words[1]), fault);
            } else {
                server.happen(fault);
            }
            out.println("Done.");
        } catch (IllegalArgumentException e) {
            err.println("Type one of %s, with a layer of the next run behind it or for now without.".formatted(String.join(", ",
                    Arrays.stream(Fault.values()).map(fault -> fault.name().toLowerCase(Locale.ROOT).replace('_', '-')).toList())));
        }
    }
}
