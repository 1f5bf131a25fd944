package fabbrica.core.judge;

/** Whose prints a printer takes; the names are stored. */
public enum UsedBy {
    EVERYBODY("everybody"), TRAINED("members with its badge"), STAFF("the lab's own people");

    private final String label;

    UsedBy(String label) {
        this.label = label;
    }

    public String label() {
        return label;
    }
}
