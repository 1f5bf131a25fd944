package fabbrica.core.gcode;

import fabbrica.core.motion.MoveTimer;
import fabbrica.core.recipe.OwnWay;
import fabbrica.core.recipe.Printer;
import fabbrica.core.units.OutOfRange;
import fabbrica.core.units.Spoken;
import java.io.ByteArrayInputStream;
import java.io.IOException;
import java.io.UncheckedIOException;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.List;

/** What is wrong with the G-code a lab has written for before or after a print, found by replaying it on its printer. */
public final class OwnWayCheck {

    private OwnWayCheck() {
    }

    /** @return sentences; empty when it can be used. Codes that nothing is known of are the printer's own affair. */
    public static List<String> of(String text, Printer printer) {
        List<String> lines = OwnWay.lines(text, printer.maxNozzleC(), printer.maxBedC());
        Replay replay = replayed(lines, new Interpreter(printer, null));
        List<String> problems = new ArrayList<>();
        replay.faults().forEach(fault -> problems.add("Own start or end, " + fault + "."));
        if (replay.hottestNozzle() > printer.maxNozzleC()) {
            problems.add("The own start or end heats the nozzle to %s °C; %s allows %d °C.".formatted(
                    Spoken.number(replay.hottestNozzle()), printer.name(), printer.maxNozzleC()));
        }
        if (replay.hottestBed() > printer.maxBedC()) {
            problems.add("The own start or end heats the bed to %s °C; %s allows %d °C.".formatted(
                    Spoken.number(replay.hottestBed()), printer.name(), printer.maxBedC()));
        }
        replay.passages().forEach(passage -> problems.add(sentence("The own start or end", passage)));
        return problems;
    }

    /**
     * Where the head is left by the lab's own start, or by its end when the print leaves it somewhere.
     *
     * @throws OutOfRange when it is driven through what is to be kept free
     */
    static MoveTimer drive(String what, List<String> lines, Printer printer, double x, double y, double z) {
        Replay replay = replayed(lines, new Interpreter(printer, null).at(x, y, z));
        if (!replay.passages().isEmpty()) {
            throw new OutOfRange(sentence("The own %s of %s".formatted(what, printer.name()), replay.passages().getFirst()));
        }
        return replay.motion();
    }

    private static String sentence(String what, Replay.Passage passage) {
        return "%s drives the head through what is to be kept free, %s mm above the bed: %s. Lift it over, or lead it around."
                .formatted(what, Spoken.number(passage.heightMm(), 2), passage.text());
    }

    private static Replay replayed(List<String> lines, Interpreter interpreter) {
        try {
            GcodeReader.read(new ByteArrayInputStream(String.join("\n", lines).getBytes(StandardCharsets.UTF_8)),
                    interpreter::accept);
        } catch (IOException e) {
            throw new UncheckedIOException(e);
        }
        return interpreter.replay();
    }
}
