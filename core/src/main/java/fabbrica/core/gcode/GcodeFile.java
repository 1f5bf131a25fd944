package fabbrica.core.gcode;

import fabbrica.core.motion.Motion;
import fabbrica.core.recipe.Material;
import fabbrica.core.recipe.Printer;
import fabbrica.core.recipe.Recipe;
import fabbrica.core.toolpath.Toolpath;
import java.io.IOException;
import java.io.OutputStream;
import java.util.List;
import java.util.Locale;
import java.util.stream.Collectors;
import java.util.stream.Stream;

/**
 * A toolpath on its way into a file for one printer, its travels led around what the bed is to be kept free of.
 *
 * @param motion of the toolpath on the printer
 * @param dx     from the toolpath to the bed, whose front left corner is the origin
 * @param header lines for people
 */
public record GcodeFile(Toolpath toolpath, Motion motion, Recipe recipe, Printer printer, Material material, double dx, double dy,
                        List<String> header) {

    /** Of each part of a name; file systems take 255 letters in all. */
    private static final int LONGEST = 60;

    /** Whether a file of this name says it is G-code. */
    public static boolean isNamedSo(String fileName) {
        String lower = fileName.toLowerCase(Locale.ROOT);
        return Stream.of(".gcode", ".gco", ".g", ".nc").anyMatch(lower::endsWith);
    }

    /** @throws fabbrica.core.units.OutOfRange with a sentence when the printer cannot do it */
    public void write(OutputStream out) throws IOException {
        GcodeWriter.write(toolpath, motion, recipe, printer, material, dx, dy, header, out);
    }

    /**
     * A name as somebody would read it aloud, beginning with the ticket or the plate: "Ticket 39, two shelf brackets, for Glass house.gcode" is
     * made of "Ticket 39", "two shelf brackets" and the printer. Characters that file systems refuse are left out.
     */
    public static String name(String number, String what, Printer printer) {
        return Stream.of(number, plain(what), "for " + plain(printer.name())).filter(part -> !part.isBlank()).collect(Collectors.joining(", ")) + ".gcode";
    }

    private static String plain(String text) {
        String plain = text.replaceAll("(?i)\\.(stl|obj|3mf|ply|amf)$", "").replaceAll("[\\\\/:*?\"<>|\\p{Cntrl}]+", " ").replaceAll("\\s+", " ").strip();
        return plain.substring(0, Math.min(LONGEST, plain.length())).strip();
    }
}
