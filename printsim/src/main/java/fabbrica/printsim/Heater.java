package fabbrica.printsim;

import fabbrica.core.recipe.Preparation;

/**
 * Something that is warmed and loses warmth to the room, of one temperature throughout: τ·dT/dt = u·ΔT − (T − room), u from 0 to 1
 * (lumped capacitance, textbook heat transfer; ΔT is the heater's power over its loss per kelvin, τ its heat capacity over the same).
 * Below its target it heats at full power, at the target it is held there, above it cools. Each of the three has a closed form, so
 * that a step of any length is exact.
 */
final class Heater {

    /** How far above the room full power holds it, K. */
    private final double reachK;
    private final double tauS;
    private double celsius = Preparation.ROOM_C;
    private double target;
    private boolean away;

    Heater(double reachK, double tauS) {
        this.reachK = reachK;
        this.tauS = tauS;
    }

    /** One that takes so long from the room's temperature to another one. */
    static Heater reaching(double celsius, double seconds, double tauS) {
        return new Heater((celsius - Preparation.ROOM_C) / -Math.expm1(-seconds / tauS), tauS);
    }

    double celsius() {
        return celsius;
    }

    double target() {
        return target;
    }

    void set(double targetC) {
        target = targetC;
    }

    /** The sensor has come off: it heats on and on, whatever its target. */
    void runAway() {
        away = true;
    }

    void cutOff() {
        away = false;
        target = 0;
    }

    boolean isReached() {
        return celsius >= target - 1e-6;
    }

    /** Seconds until it is as warm as it shall be; 0 when it is, endless when full power does not suffice. */
    double secondsToTarget() {
        if (isReached()) {
            return 0;
        }
        double full = Preparation.ROOM_C + reachK;
        return target >= full ? Double.POSITIVE_INFINITY : tauS * Math.log((full - celsius) / (full - target));
    }

    void pass(double seconds) {
        double heating = away ? seconds : Math.min(seconds, secondsToTarget());
        towards(Preparation.ROOM_C + reachK, heating);
        double rest = seconds - heating;
        if (rest > 0 && celsius > target) {
            towards(Preparation.ROOM_C, Math.min(rest, secondsDownTo(target)));
        }
        if (rest > 0) {
            celsius = Math.max(celsius, target);
        }
    }

    /** Seconds of cooling down, the heater off, until it is no warmer than that; endless for what is not above the room. */
    double secondsDownTo(double celsiusThen) {
        if (celsius <= celsiusThen) {
            return 0;
        }
        return celsiusThen <= Preparation.ROOM_C ? Double.POSITIVE_INFINITY
                : tauS * Math.log((celsius - Preparation.ROOM_C) / (celsiusThen - Preparation.ROOM_C));
    }

    private void towards(double limit, double seconds) {
        celsius = limit + (celsius - limit) * Math.exp(-seconds / tauS);
    }
}
