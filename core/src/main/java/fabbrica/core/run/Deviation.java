package fabbrica.core.run;

import fabbrica.core.units.Spoken;

/** Promised against real, for time in minutes or filament in grams. */
public record Deviation(double promised, double real) {

    /** Real over promised, less one: 0.1 is ten per cent more than promised. */
    public double deviation() {
        return promised == 0 ? 0 : real / promised - 1;
    }

    /** "12 % over", "8 % under", "as promised" (within half a per cent). */
    public String spoken() {
        double percent = deviation() * 100;
        return Math.abs(percent) < 0.5 ? "as promised"
                : Spoken.number(Math.abs(percent), 0) + " % " + (percent > 0 ? "over" : "under");
    }
}
