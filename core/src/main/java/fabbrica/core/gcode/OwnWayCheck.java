package fabbrica.core.gcode;

import fabbrica.core.recipe.OwnWay;
import fabbrica.core.recipe.Printer;
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
        Replay replay;
        try {
            replay = Replay.of(new ByteArrayInputStream(String.join("\n", lines).getBytes(StandardCharsets.UTF_8)), printer);
        } catch (IOException e) {
            throw new UncheckedIOException(e);
        }
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
        return problems;
    }
}
