package fabbrica.core.recipe;

import java.util.List;

/**
 * G-code the lab has written for before and after a print; empty leaves the usual. {@value #NOZZLE} and {@value #BED}
 * stand for the material's temperatures in °C.
 */
public record OwnWay(String start, String end) {

    public static final OwnWay NONE = new OwnWay("", "");
    private static final String NOZZLE = "{nozzle}";
    private static final String BED = "{bed}";

    /** The lines of one of the two for a material. */
    public static List<String> lines(String text, int nozzleC, int bedC) {
        return text.replace(NOZZLE, Integer.toString(nozzleC)).replace(BED, Integer.toString(bedC)).lines()
                .map(String::strip).filter(line -> !line.isEmpty()).toList();
    }
}
