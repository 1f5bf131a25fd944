package fabbrica.core.judge;

/** Why a plate may not be printed now, or only with care; both are sentences. */
public sealed interface Obstacle {

    Cause cause();

    String reason();

    /** What would help; may be empty. */
    String remedy();

    /** What it is about. */
    enum Cause {
        FIT, MACHINE, BUSY, NOZZLE, MATERIAL, ENCLOSURE, ABRASION, HEAT, FLOW, SPOOL, GRAMS, BADGE, MINOR, FAIR_USE, TRINKET, UNATTENDED, FINDING,
        SUPPORT, ADHESION, MAINTENANCE, PRICE
    }

    /** It may not be printed so. */
    record Stops(Cause cause, String reason, String remedy) implements Obstacle {
    }

    /** It may, if somebody has looked at this. */
    record WantsCare(Cause cause, String reason, String remedy) implements Obstacle {
    }

    default boolean stops() {
        return this instanceof Stops;
    }
}
