package fabbrica.core.judge;

/**
 * How a house keeps its beds; people disagree, and each way has its school (common practice, no source).
 *
 * @param glue whether a film of glue goes on before each print
 */
public record BedCare(School school, boolean glue) {

    /** Water and a cloth, and no glue: what harms nothing. */
    public static final BedCare USUAL = new BedCare(School.WATER, false);

    /** What a bed is cleaned with before each print. */
    public enum School {
        WATER("water and a cloth", "wiped with water and a cloth", ""),
        ALCOHOL("alcohol", "wiped with alcohol", "Alcohol is flammable: no flame, not on a hot bed, air; nitrile gloves."),
        SOAP("dish soap and hot water", "washed with dish soap and hot water, rinsed well and dry", "");

        private final String label;
        private final String done;
        private final String caution;

        School(String label, String done, String caution) {
            this.label = label;
            this.done = done;
            this.caution = caution;
        }

        public String label() {
            return label;
        }

        String done() {
            return done;
        }

        String caution() {
            return caution;
        }
    }

    /** What the plate has been by then, to go on from "the plate is". */
    public String done() {
        return school.done() + (glue ? ", with a thin film of washable glue" : "");
    }

    /** What to beware of; may be empty. */
    public String caution() {
        return school.caution();
    }
}
