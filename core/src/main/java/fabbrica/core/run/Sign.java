package fabbrica.core.run;

import fabbrica.core.units.Spoken;
import org.jspecify.annotations.Nullable;

/**
 * Something that is wrong with a print, as somebody sees it.
 *
 * @param heightMm above the bed; null where nobody can say
 */
public record Sign(Defect defect, Site site, @Nullable Double heightMm) {

    /** As it usually shows. */
    public static Sign of(Defect defect) {
        return new Sign(defect, defect.usualSite(), null);
    }

    /** "Strings, on its sides, at 31 mm"; without the place where it usually shows there. */
    public String spoken() {
        return "%s%s%s".formatted(defect.label(), site == defect.usualSite() ? "" : ", " + site.label(), heightMm == null ? "" : ", at %s mm".formatted(Spoken.number(heightMm, 1)));
    }
}
