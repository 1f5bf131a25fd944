package fabbrica.core.run;

/** Where on a print something is wrong. */
public enum Site {
    BOTTOM("at its bottom"), CORNER("at a corner of its foot"), SIDE("on its sides"), TOP("on top"), UNDERSIDE("on an underside"), DETAIL("at a fine detail"),
    JOINT("in a joint or gap"), ALL_OVER("all over");

    private final String label;

    Site(String label) {
        this.label = label;
    }

    public String label() {
        return label;
    }
}
