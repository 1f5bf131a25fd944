package fabbrica.core.run;

import java.util.Locale;

/**
 * What can be wrong with a machine while nobody stands beside it, what to do first, and what to beware of (common practice, no source); what can wait
 * least comes first.
 */
public enum Trouble {
    HALTED("has stopped everything", "Leave it alone until it is cold, then look for the reason; switch it off and on before it prints again.",
            "A heater that does not follow can start a fire: switch it off at its own switch if anything smells or smokes."),
    COLD("has grown cold while it prints", "Pause it and look at the nozzle: its heater or its sensor may have come loose.",
            "Have somebody qualified see to the wiring; switch it off first."),
    OFF_BED("has paused: the part has come off the bed", "Look at the plate. If the part is loose, end the print there; wash the plate before the next one.",
            "The nozzle is at 200 °C and above: move the head away before you reach in."),
    NO_FILAMENT("has paused: no filament moves", "Look at the spool first: is it empty, or caught? Then at the nozzle. Put it right and let it go on.",
            "Never pull at filament in a cold nozzle; the nozzle is hot, touch it only with gloves and the right tool."),
    OPEN("has paused: its door is open", "Close it and let it go on.", "Moving parts pinch, hot ones burn: hands out before it goes on."),
    PAUSED("has paused by itself", "Go and look. Let it go on when all is well.", "It stays hot while it waits."),
    SILENT("says nothing", "Go and look. It may well go on printing: what it is at is on its card.",
            "Whoever cannot see it must take it to be hot."),
    CUT_SHORT("is no longer at its print", "The power was cut, or somebody ended it there. Look at what lies on the plate, and say how it ended.",
            "The bed may still be hot."),
    UNKNOWN_FILE("prints a file that was not begun here", "Somebody has begun it at the machine. Find out whose it is; nothing can be begun here meanwhile.",
            "It is hot, and it moves."),
    TAKEN("is held by another program", "Only one program can be on a machine's line. Find the other one and end it.",
            "What the other one tells it is not seen here: take it to be hot."),
    ANOTHER("is not the machine that answered there before", "Check which machine is at that address; say on its page if it was exchanged.",
            "Nothing is told to it until then."),
    UNWRITTEN("says what cannot be written down", "See what keeps the lab's computer from writing, its disk first; all of it is written down as soon as that can be.",
            "What it is at goes on: take it to be hot.");

    private final String label;
    private final String first;
    private final String caution;

    Trouble(String label, String first, String caution) {
        this.label = label;
        this.first = first;
        this.caution = caution;
    }

    /** By the words of a machine that has paused. */
    static Trouble ofPause(String said) {
        String words = said.toLowerCase(Locale.ROOT);
        return words.contains("bed") ? OFF_BED : words.contains("filament") || words.contains("clog") ? NO_FILAMENT : words.contains("door") ? OPEN : PAUSED;
    }

    /** Goes on from the machine's name. */
    public String label() {
        return label;
    }

    /** What to do first. */
    public String first() {
        return first;
    }

    public String caution() {
        return caution;
    }
}
