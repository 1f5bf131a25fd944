package fabbrica.core.ledger;

/** How many times something was met, of how many times it was to be. */
public record Met(long met, long of) {

    public static final Met NOTHING = new Met(0, 0);

    Met and(boolean once) {
        return new Met(met + (once ? 1 : 0), of + 1);
    }

    /** 0 to 1; 0 when it never was to be. */
    public double share() {
        return of == 0 ? 0 : met / (double) of;
    }
}
