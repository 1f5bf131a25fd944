package fabbrica.core.run;

import java.util.Locale;

/**
 * What can be wrong with a print, its usual causes and the first thing to try (common practice, no source). Change one
 * thing per retry.
 */
public enum Defect {
    CAME_OFF("Came off the bed", "dirty plate, small contact, not level", "Wash the plate; then a brim; then glue."),
    KNOCKED_OFF("Knocked off late", "tall and thin on a small contact", "Add a brim or lay it down."),
    GAPS("Thin lines or gaps", "clog, snagged or empty spool, too much flow", "Check the spool and the nozzle cover."),
    STRINGS("Strings", "hot or wet filament, wide nozzle", "Dry the filament, print cooler."),
    DROOPED("Drooping underside", "missing support, poor cooling, thick layers", "Turn the part or support it."),
    ECHOES("Echoes of edges", "speed and acceleration", "Slow the outer wall."),
    BLURRED("Blurred detail", "nozzle too wide for the detail", "Use a finer nozzle or a larger scale."),
    STEPS("Rings on shallow slopes", "layers too thick for the slope", "Thinner layers."),
    SHIFTED("Layers shifted", "knocked part, loose belt, snag", "Check the belts and what the head can hit."),
    FUSED("Joints fused", "gap below what the machine can hold", "Larger scale, or the better tuned machine."),
    SNAPPED("Thin feature snapped", "too thin at that scale", "Larger scale; no support inside loops."),
    WRONG_SIZE("Wrong size", "unit or scale", "Check the unit with the member."),
    RAN_OUT("Ran out of filament", "spool too short", "Weigh the spool before the start.");

    private final String label;
    private final String usualCauses;
    private final String firstToTry;

    Defect(String label, String usualCauses, String firstToTry) {
        this.label = label;
        this.usualCauses = usualCauses;
        this.firstToTry = firstToTry;
    }

    public String code() {
        return name().toLowerCase(Locale.ROOT).replace('_', '-');
    }

    public String label() {
        return label;
    }

    public String usualCauses() {
        return usualCauses;
    }

    public String firstToTry() {
        return firstToTry;
    }
}
