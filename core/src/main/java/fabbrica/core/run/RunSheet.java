package fabbrica.core.run;

import fabbrica.core.inspect.Finding;
import fabbrica.core.judge.BedCare;
import fabbrica.core.recipe.Material;
import fabbrica.core.recipe.Nozzle;
import fabbrica.core.recipe.Recipe;
import fabbrica.core.recipe.Supports;
import fabbrica.core.units.Spoken;
import java.util.ArrayList;
import java.util.Collection;
import java.util.List;
import java.util.Set;
import java.util.TreeSet;
import java.util.stream.Stream;

/**
 * What somebody does around a run, in working order: what has to be true before it begins, what to expect then, and what is to be done once it is over;
 * fitted to printer, material, recipe and part (common practice, no source). The maker's manual and the rules of the lab come first.
 *
 * @param before one by one to be confirmed
 * @param expect what happens by itself once it has begun
 * @param after  in its order
 */
public record RunSheet(List<Line> before, List<String> expect, List<Line> after) {

    private static final String FLINGS = "Wear safety glasses: bits fling.";

    public RunSheet {
        before = List.copyOf(before);
        expect = List.copyOf(expect);
        after = List.copyOf(after);
    }

    /**
     * A step.
     *
     * @param caution that belongs to it; may be empty
     */
    public record Line(String what, String caution) {

        static Line of(String what) {
            return new Line(what, "");
        }
    }

    /**
     * What a run is begun with.
     *
     * @param file     as it is called where somebody carries it; empty where it is on its machine and was read back there
     * @param checked  whether its machine has read it back
     * @param hours    that the nozzle has run
     * @param spool    as people call it
     * @param leftG    on the spool
     * @param neededG  by this run
     * @param prepareS until the first line
     * @param firstS   that the first layer takes; 0 when nobody knows
     * @param stays    who is there until when, a sentence; may be empty
     */
    public record Start(String printer, String file, boolean checked, Nozzle nozzle, double hours, Material material, String spool, double leftG, double neededG,
                        BedCare care, double prepareS, double firstS, String stays) {
    }

    /** @param findings of the parts on it */
    public static RunSheet of(Start start, Recipe recipe, Collection<Finding> findings) {
        return new RunSheet(before(start), expect(start), after(recipe, findings));
    }

    /** With something to be done before all else. */
    public RunSheet first(String what) {
        return new RunSheet(Stream.concat(Stream.of(Line.of(what)), before.stream()).toList(), expect, after);
    }

    private static List<Line> before(Start start) {
        List<Line> lines = new ArrayList<>();
        lines.add(new Line("The last print is off, the plate is %s and back in place.".formatted(start.care().done()), start.care().caution()));
        if (!start.checked()) {
            lines.add(Line.of("%s has the file “%s”, none for another printer.".formatted(start.printer(), start.file())));
        }
        lines.add(Line.of("%s, %s, is loaded and unwinds freely: %s left, %s needed.".formatted(start.material().name(), start.spool(), Spoken.grams(Math.max(0, start.leftG())),
                Spoken.grams(start.neededG()))));
        lines.add(new Line("The %s nozzle is in it (%s), its cover is on, nothing lies in the way.".formatted(start.nozzle(),
                Spoken.number(start.hours(), 0) + " h"), "Hot, %d °C and %d °C: hands off from here on.".formatted(start.material().nozzleC(), start.material().bedC())));
        if (start.material().enclosed()) {
            lines.add(new Line("The enclosure is closed and the room is ventilated.", "This material gives off fumes; follow its maker’s sheet."));
        }
        lines.add(new Line("Somebody stays within reach, by the rules of the house." + (start.stays().isEmpty() ? "" : " " + start.stays()),
                "A print alone is a fire risk."));
        return lines;
    }

    private static List<String> expect(Start start) {
        double begins = Math.ceil(start.prepareS() / 60), over = Math.ceil((start.prepareS() + start.firstS()) / 60);
        String layer = start.firstS() > 0 ? "Watch the first layer, from minute %s to minute %s: it lies flat everywhere, or the run is ended.".formatted(
                Spoken.number(begins, 0), Spoken.number(Math.max(over, begins + 1), 0)) : "Watch the first layer, from about minute %s on: it lies flat everywhere, or the run is ended."
                .formatted(Spoken.number(begins, 0));
        return List.of("Nothing moves for the first minutes: the bed warms to %d °C, the nozzle to %d °C.".formatted(start.material().bedC(), start.material().nozzleC()), layer);
    }

    private static List<Line> after(Recipe recipe, Collection<Finding> findings) {
        List<Line> lines = new ArrayList<>();
        lines.add(Line.of("Let the bed cool down."));
        lines.add(new Line("Flex the plate and lift the print off gently.", "Scrape away from the hand."));
        switch (recipe.adhesion()) {
            case SKIRT -> lines.add(Line.of("Take the skirt off the plate as well."));
            case BRIM -> lines.add(new Line("Take off the brim.", "Cut away from the hand."));
            case EARS -> lines.add(new Line("Take off the ears at its corners.", "Cut away from the hand."));
            case RAFT -> lines.add(new Line("Peel off the raft.", FLINGS));
            case NONE -> { }
        }
        if (recipe.supports().where() != Supports.Where.NONE) {
            lines.add(new Line("Break off the supports, beginning where the part is thick.", FLINGS));
        }
        Set<String> care = new TreeSet<>();
        findings.forEach(finding -> {
            if (finding.code() == Finding.Code.THIN_WALL) {
                care.add("It has thin walls: hold it where it is thick.");
            } else if (finding.code() == Finding.Code.NARROW_GAP) {
                care.add("It has narrow gaps: work its joints free little by little, without force.");
            }
        });
        care.forEach(what -> lines.add(Line.of(what)));
        lines.add(Line.of("Put the plate back, and look that nothing is left on it."));
        return lines;
    }
}
