package fabbrica.core.schedule;

/**
 * What a machine has to be set up with before it prints a plate, and what it stands at afterwards.
 *
 * @param spool    the reel itself; empty where one reel of a material and colour is as good as another
 * @param nozzleMm bore; 0 where nobody asks for one
 */
public record Setup(String material, String colour, String spool, double nozzleMm) {

    /** A machine with nothing in it. */
    public static final Setup EMPTY = new Setup("", "", "", 0);

    private static final String GONE = "gone";

    /** What has to be changed of the filament. */
    public enum Change {
        NONE, COLOUR, MATERIAL
    }

    /** From this to what a plate wants; another reel of the same is changed as quickly as a colour. */
    public Change changeTo(Setup wanted) {
        if (!material.equals(wanted.material)) {
            return Change.MATERIAL;
        }
        return colour.equals(wanted.colour) && spool.equals(wanted.spool) ? Change.NONE : Change.COLOUR;
    }

    /** What a machine stands at whose spool has gone to another: what is in its nozzle is still of that material and colour. */
    public Setup withoutSpool() {
        return new Setup(material, colour, GONE, nozzleMm);
    }

    public boolean sameNozzle(Setup wanted) {
        return wanted.nozzleMm == 0 || Math.abs(nozzleMm - wanted.nozzleMm) < 0.005;
    }
}
