package fabbrica.web.floor;

/** What a run took, and how that is known. */
public record Took(double minutes, Source minutesFrom, double grams, Source gramsFrom) {

    /** The names are stored. */
    public enum Source {
        MACHINE("as its machine told", "as its machine told"), MEASURED("by the clock", "weighed"), ESTIMATE("as was promised, not measured", "as was promised, not weighed");

        private final String ofTime;
        private final String ofPlastic;

        Source(String ofTime, String ofPlastic) {
            this.ofTime = ofTime;
            this.ofPlastic = ofPlastic;
        }

        public String ofTime() {
            return ofTime;
        }

        public String ofPlastic() {
            return ofPlastic;
        }
    }

    /** Whether the machine has told how long it took. */
    boolean told() {
        return minutesFrom == Source.MACHINE;
    }
}
