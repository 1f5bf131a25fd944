package fabbrica.core.estimate;

import fabbrica.core.units.OutOfRange;
import java.util.OptionalDouble;

/**
 * What a printer draws and costs while it runs.
 *
 * @param wattsHeating  drawn while it gets ready
 * @param wattsPrinting drawn while it prints
 * @param perHour       in the lab's currency; nothing where the lab's own price of an hour holds
 */
public record MachineCost(double wattsHeating, double wattsPrinting, OptionalDouble perHour) {

    /** Of most desktop machines (common practice, no source). */
    public static final MachineCost USUAL = new MachineCost(250, 100, OptionalDouble.empty());

    public MachineCost {
        OutOfRange.check("Power while heating", wattsHeating, 0, 5000, "W");
        OutOfRange.check("Power while printing", wattsPrinting, 0, 5000, "W");
        perHour.ifPresent(price -> OutOfRange.check("Price per machine hour", price, 0, 10_000, ""));
    }

    /** Electricity of a plate, kWh. */
    public double kwh(double prepareSeconds, double printSeconds) {
        return (prepareSeconds * wattsHeating + printSeconds * wattsPrinting) / 3.6e6;
    }
}
