package fabbrica.cli;

import fabbrica.core.schedule.Audit;
import fabbrica.core.schedule.NeighbourhoodSearch;
import fabbrica.core.schedule.Schedule;
import fabbrica.core.units.OutOfRange;
import java.io.IOException;
import java.io.PrintWriter;
import java.nio.charset.StandardCharsets;
import java.nio.file.Path;
import java.time.Duration;
import java.util.List;
import org.apache.commons.cli.ParseException;

/**
 * {@code schedule IN -o OUT}: a plan for a floor and what waits for it. With {@code --verify IN OUT} it reads a plan that
 * anybody made, and says which rules it breaks. Exit codes: 0 for a plan that keeps all rules, 1 for one that breaks some or
 * leaves something out.
 */
record ScheduleCommand(PrintWriter out, PrintWriter err) implements Fabbrica.Command {

    private static final double DEFAULT_SECONDS = 10;
    private static final int MOST_SECONDS = 24 * 3600;

    @Override
    public int run(Arguments arguments) throws IOException, ParseException {
        if (arguments.verify()) {
            List<Path> files = arguments.inAndOut();
            ScheduleFile file = ScheduleFile.read(files.getFirst());
            return say(Audit.of(file.view(), file.readPlan(files.get(1)), file::name), arguments.json());
        }
        if (arguments.files().size() != 1) {
            throw new ParseException("Name one file to plan, and with -o the file to write.");
        }
        Path to = Path.of(arguments.word("o").orElseThrow(() -> new ParseException("Name the file to write with -o.")));
        double seconds = OutOfRange.check("--seconds", arguments.number("seconds", DEFAULT_SECONDS), 0, MOST_SECONDS, "s");
        ScheduleFile file = ScheduleFile.read(arguments.files().getFirst());
        Schedule schedule = new NeighbourhoodSearch(Runtime.getRuntime().availableProcessors(), 1).plan(file.view(),
                Duration.ofMillis(Math.round(seconds * 1000)));
        ModelFile.write(to, stream -> Json.print(file.document(schedule), new PrintWriter(stream, false, StandardCharsets.UTF_8)));
        return say(Audit.of(file.view(), schedule, file::name), arguments.json());
    }

    private int say(Audit audit, boolean json) {
        if (json) {
            Json.print(Json.object("objective", audit.objective(), "lateness", audit.lateness(), "changes", audit.changes(), "completion",
                    audit.completion(), "broken", audit.broken()), out);
        } else if (audit.broken().isEmpty()) {
            out.println("objective %d: lateness %d, changes %d, completion %d".formatted(audit.objective(), audit.lateness(), audit.changes(),
                    audit.completion()));
        } else {
            audit.broken().forEach(out::println);
        }
        return audit.broken().isEmpty() ? Fabbrica.FINE : Fabbrica.BLOCKED;
    }
}
