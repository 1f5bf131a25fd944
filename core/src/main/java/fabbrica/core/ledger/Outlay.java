package fabbrica.core.ledger;

import fabbrica.core.estimate.Expected;
import fabbrica.core.estimate.MachineCost;
import fabbrica.core.estimate.Tariff;
import fabbrica.core.recipe.Spool;

/**
 * What printing takes of a lab.
 *
 * @param money for all of the plastic, for electricity and for the machine's hours, in the lab's currency; whatever of it members pay
 */
public record Outlay(double seconds, double grams, double money) {

    public static final Outlay NOTHING = new Outlay(0, 0, 0);

    /** @param tariff tells what electricity costs, and an hour of machines that have no price of their own */
    public static Outlay of(Expected plate, Spool spool, MachineCost machine, Tariff tariff) {
        return new Outlay(plate.totalSeconds(), plate.grams(), plate.grams() * spool.pricePerKg() / 1000 + machine.kwh(plate.prepareSeconds(), plate.printSeconds()) * tariff.perKwh()
                + plate.totalSeconds() / 3600 * machine.perHour().orElse(tariff.perHour()));
    }

    public Outlay plus(Outlay other) {
        return new Outlay(seconds + other.seconds, grams + other.grams, money + other.money);
    }
}
