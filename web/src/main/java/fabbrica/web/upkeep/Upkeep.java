package fabbrica.web.upkeep;

import java.io.IOException;
import java.io.PrintStream;
import java.nio.file.Path;
import java.time.Clock;
import java.util.stream.Collectors;

/** The commands of upkeep, each on the data folder that FABBRICA_DATA names. */
public final class Upkeep {

    private static final int FINE = 0;
    private static final int REFUSED = 1;
    private static final int WRONG_USE = 2;
    private static final String USAGE = "backup TO | restore FROM | verify-data";

    private Upkeep() {
    }

    public static void main(String[] arguments) {
        System.exit(run(arguments, Path.of(System.getenv().getOrDefault("FABBRICA_DATA", "data/lab")), System.out, System.err));
    }

    /** @return the exit status: 0 when it is done and all is whole */
    static int run(String[] arguments, Path data, PrintStream out, PrintStream err) {
        String command = arguments.length == 0 ? "" : arguments[0];
        int needed = command.equals("verify-data") ? 1 : 2;
        if (arguments.length != needed) {
            err.println("Usage: " + USAGE);
            return WRONG_USE;
        }
        try {
            switch (command) {
                case "backup" -> {
                    DataCheck check = Backup.write(data, Path.of(arguments[1]), null);
                    out.printf("%s holds the lab of this moment: the database and %d files, checked as written.%n", arguments[1],
                            check.files() - check.missing().size());
                    return told(check, out);
                }
                case "restore" -> {
                    Restore.Restored restored = Restore.from(Path.of(arguments[1]), data, Clock.systemDefaultZone());
                    out.println("The lab is as it was in " + arguments[1] + "." + (restored.before() == null ? ""
                            : " What was there before is kept in " + restored.before() + "."));
                    if (!restored.knownAgain().isEmpty()) {
                        out.println("These members were forgotten since and are back; forget them again under Members, no. "
                                + restored.knownAgain().stream().map(String::valueOf).collect(Collectors.joining(", ")) + ".");
                    }
                    return told(DataCheck.of(data), out);
                }
                case "verify-data" -> {
                    return told(DataCheck.of(data), out);
                }
                default -> {
                    err.println("Usage: " + USAGE);
                    return WRONG_USE;
                }
            }
        } catch (UpkeepException refused) {
            err.println(refused.getMessage());
            return REFUSED;
        } catch (IOException failed) {
            err.println("The disk could not be read or written; what was there before is safe. " + failed);
            return REFUSED;
        }
    }

    private static int told(DataCheck check, PrintStream out) {
        check.report().forEach(out::println);
        return check.whole() ? FINE : REFUSED;
    }
}
