package fabbrica.cli;

import fabbrica.core.units.OutOfRange;
import java.io.IOException;
import java.io.PrintWriter;
import java.util.Arrays;
import java.util.List;
import org.apache.commons.cli.ParseException;

/** The core from a shell. Exit codes: 0 fine, 1 a finding that blocks printing, 2 unreadable file or wrong arguments. */
public final class Fabbrica {

    static final int FINE = 0;
    static final int BLOCKED = 1;
    static final int WRONG = 2;

    private Fabbrica() {
    }

    public static void main(String[] arguments) {
        int status = run(arguments, new PrintWriter(System.out, true), new PrintWriter(System.err, true));
        if (status != FINE) {
            System.exit(status);
        }
    }

    static int run(String[] arguments, PrintWriter out, PrintWriter err) {
        boolean json = List.of(arguments).contains("--json");
        try {
            return command(arguments.length == 0 ? "" : arguments[0], out, err)
                    .run(Arguments.parse(Arrays.copyOfRange(arguments, Math.min(1, arguments.length),
                            arguments.length)));
        } catch (ParseException | OutOfRange e) {
            return Json.refuse(json, "wrong-arguments", String.valueOf(e.getMessage()), out, err);
        } catch (IOException e) {
            return Json.refuse(json, "unreadable", String.valueOf(e.getMessage()), out, err);
        }
    }

    private static Command command(String name, PrintWriter out, PrintWriter err) throws ParseException {
        return switch (name) {
            case "check" -> new CheckCommand(out, err);
            case "estimate" -> new EstimateCommand(out, err);
            case "slice" -> new SliceCommand(out, err);
            case "trade" -> new TradeCommand(out, err);
            case "repair" -> new RepairCommand(out, err);
            case "convert" -> new ConvertCommand(out, err);
            case "schedule" -> new ScheduleCommand(out, err);
            case "printer" -> new PrinterCommand(System.in, out, err);
            default -> throw new ParseException("The commands are: check FILE…, repair IN OUT, convert IN OUT, "
                    + "estimate FILE --printer ID, slice IN -o OUT.gcode --printer ID, trade IN --printer ID, "
                    + "schedule IN.json -o OUT.json and printer --port N --card DIR.");
        };
    }

    /** One of the things to do. */
    interface Command {

        /** @return the exit code */
        int run(Arguments arguments) throws IOException, ParseException;
    }
}
