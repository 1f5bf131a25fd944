package fabbrica.core.judge;

import fabbrica.core.recipe.Material;
import fabbrica.core.recipe.Spool;
import org.jspecify.annotations.Nullable;

/**
 * The plastic that a plate would be printed of.
 *
 * @param material   of the spool, or the one in mind when none is chosen
 * @param spool      null when none is chosen; then nothing else is looked at
 * @param diameterMm of its filament
 * @param promisedG  of what the spool holds, what other plates that wait were promised
 * @param feeds      another run that the spool feeds at the moment; empty when it feeds none
 */
public record Stock(Material material, @Nullable Spool spool, double diameterMm, double promisedG, String feeds, boolean retired) {

    /** A material, from no spool yet. */
    public static Stock of(Material material) {
        return new Stock(material, null, 0, 0, "", false);
    }
}
