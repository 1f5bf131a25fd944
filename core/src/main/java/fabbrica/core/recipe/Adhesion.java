package fabbrica.core.recipe;

import java.util.Arrays;
import java.util.List;
import java.util.Locale;
import java.util.Optional;

/** What helps the first layer: nothing, a skirt around it, a brim on it or on its corners, or a raft under it. */
public enum Adhesion {
    NONE("none", "nothing"),
    /** Two loops 4 mm away (common practice, no source). */
    SKIRT("skirt", "skirt"),
    /** 5 mm of loops that touch the part (common practice, no source). */
    BRIM("brim", "brim"),
    /** A brim only around sharp corners, which lift first: discs of 8 mm radius (common practice, no source). */
    EARS("ears", "ears"),
    /** Three layers reaching 3 mm beyond the part (common practice, no source). */
    RAFT("raft", "raft");

    public static final int SKIRT_LOOPS = 2;
    public static final double SKIRT_GAP_MM = 4;
    public static final double BRIM_MM = 5;
    public static final double EAR_MM = 8;
    public static final double RAFT_MARGIN_MM = 3;
    /** Heights of the raft's layers from the bed up: one coarse, two closed. */
    public static final List<Double> RAFT_LAYERS_MM = List.of(0.3, 0.25, 0.25);

    private final String code;
    private final String label;

    Adhesion(String code, String label) {
        this.code = code;
        this.label = label;
    }

    public String code() {
        return code;
    }

    public String label() {
        return label;
    }

    /** How far it reaches at most on the bed with lines of the given width, round at corners. */
    public double marginMm(double lineWidthMm) {
        return switch (this) {
            case NONE -> 0;
            case SKIRT -> SKIRT_GAP_MM + SKIRT_LOOPS * lineWidthMm;
            case BRIM -> BRIM_MM + lineWidthMm;
            case EARS -> EAR_MM;
            case RAFT -> RAFT_MARGIN_MM + lineWidthMm / 2;
        };
    }

    /** What it puts under the part. */
    public double heightMm() {
        return this == RAFT ? RAFT_LAYERS_MM.stream().mapToDouble(Double::doubleValue).sum() : 0;
    }

    public static Optional<Adhesion> ofCode(String code) {
        return Arrays.stream(values()).filter(adhesion -> adhesion.code.equals(code.toLowerCase(Locale.ROOT)))
                .findFirst();
    }
}
