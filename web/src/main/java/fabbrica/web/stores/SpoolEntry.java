package fabbrica.web.stores;

import fabbrica.core.units.OutOfRange;
import java.time.LocalDate;
import org.jspecify.annotations.Nullable;

/**
 * A spool as somebody writes it down.
 *
 * @param number null for the next free one
 */
public record SpoolEntry(@Nullable Integer number, String materialId, String colour, String place, double netG, @Nullable Double tareG,
                         double diameterMm, String lot, double pricePerKg, @Nullable LocalDate openedOn, @Nullable LocalDate driedOn,
                         boolean retired) {

    public SpoolEntry {
        OutOfRange.check("Plastic when new", netG, 1, 100_000, "g");
        OutOfRange.check("Filament diameter", diameterMm, 0.5, 10, "mm");
        OutOfRange.check("Price per kg", pricePerKg, 0, 100_000, "");
        if (tareG != null) {
            OutOfRange.check("Empty reel", tareG, 0, 10_000, "g");
        }
        if (number != null) {
            OutOfRange.check("Number", number, 1, 1_000_000);
        }
    }

    /** New, sealed or just opened, of the usual filament. */
    public static SpoolEntry fresh(String materialId, String colour, double netG, double pricePerKg, @Nullable LocalDate openedOn) {
        return new SpoolEntry(null, materialId, colour, "", netG, null, 1.75, "", pricePerKg, openedOn, null, false);
    }
}
