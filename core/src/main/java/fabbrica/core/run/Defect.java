package fabbrica.core.run;

import java.util.Locale;

/**
 * What can be wrong with a print, and its usual causes (common practice, no source). The names are stored.
 */
public enum Defect {
    LIFTED("A corner lifted", Site.CORNER, "dirty plate, a draught, a material that shrinks"),
    CAME_OFF("Came off the bed", Site.BOTTOM, "dirty plate, small contact, not level"),
    KNOCKED_OFF("Knocked off late", Site.BOTTOM, "tall and thin on a small contact"),
    TORN("First layer torn", Site.BOTTOM, "dirty plate, not level"),
    SHIFTED("Layers shifted", Site.SIDE, "knocked part, loose belt, snag"),
    STRINGS("Strings", Site.ALL_OVER, "hot or wet filament, wide nozzle"),
    GAPS("Thin lines or gaps", Site.SIDE, "clog, snagged or empty spool, too much flow"),
    SPLIT("Layers split", Site.SIDE, "too cold, a draught"),
    DROOPED("Drooping underside", Site.UNDERSIDE, "missing support, poor cooling, thick layers"),
    ROUGH("Rough underside", Site.UNDERSIDE, "supports close under it, poor cooling"),
    ECHOES("Echoes of edges", Site.SIDE, "speed and acceleration"),
    STEPS("Rings on shallow slopes", Site.TOP, "layers too thick for the slope"),
    BLURRED("Blurred detail", Site.DETAIL, "nozzle too wide for the detail"),
    FUSED("Joints fused", Site.JOINT, "gap below what the machine can hold"),
    SNAPPED("Thin feature snapped", Site.DETAIL, "too thin at that scale"),
    WRONG_SIZE("Wrong size", Site.ALL_OVER, "unit or scale, another machine's file"),
    WRONG_COLOUR("Wrong colour", Site.ALL_OVER, "another spool than planned"),
    RAN_OUT("Ran out of filament", Site.TOP, "spool too short"),
    STOPPED("Stopped in the middle", Site.TOP, "a power cut, somebody, the machine");

    private final String label;
    private final Site usualSite;
    private final String usualCauses;

    Defect(String label, Site usualSite, String usualCauses) {
        this.label = label;
        this.usualSite = usualSite;
        this.usualCauses = usualCauses;
    }

    public String code() {
        return name().toLowerCase(Locale.ROOT).replace('_', '-');
    }

    public String label() {
        return label;
    }

    /** Where it shows as a rule. */
    public Site usualSite() {
        return usualSite;
    }

    public String usualCauses() {
        return usualCauses;
    }

    /** Whether it happened at a height, and not over time. */
    public boolean hasHeight() {
        return switch (this) {
            case CAME_OFF, KNOCKED_OFF, SHIFTED, GAPS, SPLIT, DROOPED, ROUGH, SNAPPED, RAN_OUT, STOPPED -> true;
            default -> false;
        };
    }
}
