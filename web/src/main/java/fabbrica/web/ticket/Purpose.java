package fabbrica.web.ticket;

import fabbrica.core.recipe.StartingPoint;

/** What a print is for; it suggests where the recipe starts and what to warn of. */
public enum Purpose {
    DISPLAY("Display", StartingPoint.SHOW_PIECE, ""),
    EVERYDAY("Everyday use", StartingPoint.DAILY_BREAD, "Printed parts are not food-safe by default."),
    LOAD_BEARING("Load-bearing", StartingPoint.WORK_HORSE,
            "Printed parts are not load-rated: never where a failure can hurt someone."),
    SMALL_CHILD("For a small child", StartingPoint.DAILY_BREAD,
            "Small parts and sharp edges: check size and edges before the hand-out."),
    PROTOTYPE("Prototype", StartingPoint.ROUGH_CUT, "");

    private final String label;
    private final StartingPoint startingPoint;
    private final String caution;

    Purpose(String label, StartingPoint startingPoint, String caution) {
        this.label = label;
        this.startingPoint = startingPoint;
        this.caution = caution;
    }

    public String label() {
        return label;
    }

    public StartingPoint startingPoint() {
        return startingPoint;
    }

    public String caution() {
        return caution;
    }
}
