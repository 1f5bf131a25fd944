package fabbrica.web.upkeep;

import fabbrica.web.account.Accounts;
import fabbrica.web.platform.storage.DataFolder;
import java.io.IOException;
import java.io.PrintStream;
import java.nio.file.Path;
import java.time.Clock;
import java.time.Instant;
import java.util.stream.Collectors;
import org.springframework.security.crypto.bcrypt.BCryptPasswordEncoder;

/** The commands of upkeep, each on the data folder that FABBRICA_DATA names. */
public final class Upkeep {

    private static final int FINE = 0;
    private static final int REFUSED = 1;
    private static final int WRONG_USE = 2;
    private static final String USAGE = "backup TO | restore FROM | verify-data | reset-password NAME";

    private Upkeep() {
    }

    public static void main(String[] arguments) {
        System.exit(run(arguments, Path.of(System.getenv().getOrDefault("FABBRICA_DATA", "data/lab")), System.out, System.err));
    }

    /** @return the exit status: 0 when it is done and all is whole */
    public static int run(String[] arguments, Path data, PrintStream out, PrintStream err) {
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
                case "reset-password" -> {
                    String code = Accounts.freshCode();
                    if (!reset(data, arguments[1], code)) {
                        err.println("There is no open account “" + arguments[1] + "” in " + data + ".");
                        return REFUSED;
                    }
                    out.printf("The password of “%s” is gone. The one-time code, for %d days: %s%nIt is entered at “I have a one-time code” "
                            + "on the page to sign in.%n", arguments[1], Accounts.CODE_HOLDS.toDays(), code);
                    return FINE;
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

    /** For whoever has the computer: the way back when nobody is left who could reset it on a page. */
    private static boolean reset(Path data, String username, String code) {
        try (DatabaseRepository database = new DatabaseRepository(DataFolder.database(data))) {
            return database.resetPassword(username, new BCryptPasswordEncoder().encode(code), Instant.now().plus(Accounts.CODE_HOLDS));
        }
    }

    private static int told(DataCheck check, PrintStream out) {
        check.report().forEach(out::println);
        return check.whole() ? FINE : REFUSED;
    }
}
