package fabbrica.core.run;

/** What a machine may be told. */
public sealed interface Command {

    /** Puts a file on it, under a name of its own, and has its hash read back. */
    record Load(String file, byte[] content) implements Command {
    }

    /**
     * Begins with a file that is on it.
     *
     * @param sha256 that it was loaded with: another file under its name is not begun with
     */
    record Start(String file, String sha256) implements Command {
    }

    /** Takes a file off it. */
    record Remove(String file) implements Command {
    }

    record Pause() implements Command {
    }

    record Resume() implements Command {
    }

    /** Ends what it is at; the heaters go off. */
    record Cancel() implements Command {
    }

    /** Everything off at once. */
    record EmergencyStop() implements Command {
    }

    /** Ready again after it was stopped. */
    record Restart() implements Command {
    }
}
