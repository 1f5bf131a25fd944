package fabbrica.web.stores;

import fabbrica.core.recipe.Kinematics;
import fabbrica.core.recipe.Preparation;
import java.util.List;
import java.util.function.ToDoubleFunction;

/** The numbers of a printer's form, in the order of the values they make up. */
public final class PrinterFields {

    public static final List<Field<Kinematics>> KINEMATICS = List.of(
            new Field<>("maxSpeed", "Top speed", "mm/s", Kinematics::maxSpeedMmS),
            new Field<>("acceleration", "Acceleration", "mm/s²", Kinematics::accelerationMmS2),
            new Field<>("cornerSpeed", "Speed at a right-angled corner", "mm/s", Kinematics::cornerSpeedMmS),
            new Field<>("zSpeed", "Vertical speed", "mm/s", Kinematics::zSpeedMmS),
            new Field<>("maxFlow", "Most plastic melted", "mm³/s", Kinematics::maxFlowMm3S),
            new Field<>("retractionMm", "Filament drawn back", "mm", Kinematics::retractionMm),
            new Field<>("retractionSpeed", "Speed of drawing back", "mm/s", Kinematics::retractionSpeedMmS));

    public static final List<Field<Preparation>> PREPARATION = List.of(
            new Field<>("bedCPerS", "Bed heats", "°C/s", Preparation::bedCPerS),
            new Field<>("nozzleCPerS", "Nozzle heats", "°C/s", Preparation::nozzleCPerS),
            new Field<>("homingS", "Homing", "s", Preparation::homingS),
            new Field<>("levellingS", "Levelling", "s", Preparation::levellingS),
            new Field<>("flowS", "Flow calibration", "s", Preparation::flowS),
            new Field<>("purgeS", "Purging", "s", Preparation::purgeS),
            new Field<>("purgeMm3", "Purged plastic", "mm³", Preparation::purgeMm3),
            new Field<>("pictureS", "Picture at each layer", "s", Preparation::pictureS),
            new Field<>("endS", "Parking at the end", "s", Preparation::endS));

    private PrinterFields() {
    }

    public record Field<T>(String name, String label, String unit, ToDoubleFunction<T> value) {
    }
}
