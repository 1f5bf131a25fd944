package fabbrica.core.units;

import java.math.BigDecimal;
import java.math.RoundingMode;
import java.util.Locale;

/** Quantities as people at the counter say them: {@code 2 h 10 min}, {@code 18.4 g}, {@code 42 × 31 × 60 mm}. */
public final class Spoken {

    private static final String THIN_SPACE = "\u202f";

    private Spoken() {
    }

    /** Minutes below ten hours are kept; seconds are said only below one minute. */
    public static String duration(double seconds) {
        if (Math.round(seconds) < 60) {
            return Math.round(seconds) + " s";
        }
        long minutes = Math.round(seconds / 60);
        if (minutes < 60) {
            return minutes + " min";
        }
        return minutes % 60 == 0 ? minutes / 60 + " h" : "%d h %02d min".formatted(minutes / 60, minutes % 60);
    }

    /** At most {@code decimals} decimals, without trailing zeros. */
    public static String number(double value, int decimals) {
        if (!Double.isFinite(value)) {
            return "not a number";
        }
        BigDecimal rounded = BigDecimal.valueOf(value).setScale(decimals, RoundingMode.HALF_UP);
        return rounded.signum() == 0 ? "0" : rounded.stripTrailingZeros().toPlainString();
    }

    public static String number(double value) {
        return number(value, 3);
    }

    public static String count(long count) {
        return String.format(Locale.ROOT, "%,d", count).replace(",", THIN_SPACE);
    }

    /** "1 edge", "12 edges": for words with a regular plural. */
    public static String count(long count, String noun) {
        return count(count) + " " + (count == 1 ? noun : noun + "s");
    }

    public static String grams(double grams) {
        return number(grams, grams < 100 ? 1 : 0) + " g";
    }

    /** Of much plastic: kilograms from one on. */
    public static String weight(double grams) {
        return grams < 1000 ? grams(grams) : number(grams / 1000, 2) + " kg";
    }

    /** How long people wait: hours below two days, then days, to tenths. */
    public static String days(double seconds) {
        double hours = seconds / 3600;
        return hours < 48 ? number(Math.max(1, hours), 0) + " h" : number(hours / 24, 1) + " days";
    }

    /** A fraction as per cent, to tenths. */
    public static String percent(double fraction) {
        return number(100 * fraction, 1) + " %";
    }

    public static String metres(double millimetres) {
        return number(millimetres / 1000, 2) + " m";
    }

    /** Tenths of a cubic centimetre. */
    public static String volume(double cubicMillimetres) {
        return cubicMillimetres < 50 ? "less than 0.1 cm³" : number(cubicMillimetres / 1000, 1) + " cm³";
    }

    /** Three sides in millimetres: tenths from 10 mm on, hundredths below. */
    public static String size(double x, double y, double z) {
        return side(x) + " × " + side(y) + " × " + side(z) + " mm";
    }

    public static String inches(double x, double y, double z) {
        double inch = LengthUnit.INCH.millimetres();
        return number(x / inch, 2) + " × " + number(y / inch, 2) + " × " + number(z / inch, 2) + " in";
    }

    private static String side(double millimetres) {
        return number(millimetres, millimetres < 10 ? 2 : 1);
    }
}
