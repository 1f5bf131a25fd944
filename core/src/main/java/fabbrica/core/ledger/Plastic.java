package fabbrica.core.ledger;

import fabbrica.core.ledger.Entry.Ending;

/**
 * Where plastic went, in grams.
 *
 * @param parts    what people took home
 * @param supports what was broken off of it
 * @param purged   what went beside it, before prints and at changes
 * @param failed   all of what failed
 * @param stopped  all of what was stopped before it was done
 */
public record Plastic(double parts, double supports, double purged, double failed, double stopped) {

    public static final Plastic NOTHING = new Plastic(0, 0, 0, 0, 0);

    static Plastic of(Entry entry) {
        if (entry.ending() != Ending.GOOD) {
            return entry.ending() == Ending.FAILED ? new Plastic(0, 0, 0, entry.grams(), 0) : new Plastic(0, 0, 0, 0, entry.grams());
        }
        double supports = entry.grams() * entry.supported(), purged = entry.grams() * entry.purged();
        return new Plastic(Math.max(0, entry.grams() - supports - purged), supports, purged, 0, 0);
    }

    Plastic plus(Plastic other) {
        return new Plastic(parts + other.parts, supports + other.supports, purged + other.purged, failed + other.failed, stopped + other.stopped);
    }

    public double all() {
        return parts + supports + purged + failed + stopped;
    }
}
