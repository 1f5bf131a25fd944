package fabbrica.printsim;

/** What goes wrong with a machine, and what a machine makes of it. */
public enum Fault {
    /** The part has come off the bed; the camera at the bed's edge sees it. */
    OFF_BED("the part has come off the bed"),
    CLOG("no filament moves: the nozzle is clogged"),
    FILAMENT_OUT("the filament has run out"),
    SNAG("no filament moves: it is caught at the spool"),
    DOOR_OPEN("the door is open"),
    /** A heater that no longer follows: the firmware stops everything. */
    RUNAWAY("a heater does not follow its target"),
    /** What it was at is gone with the power; what is on the card stays. */
    POWER_CUT("the power was cut"),
    /** Nobody reaches it for a while; it goes on. */
    LOST_CONNECTION("the line is dead");

    private final String sentence;

    Fault(String sentence) {
        this.sentence = sentence;
    }

    String sentence() {
        return sentence;
    }
}
