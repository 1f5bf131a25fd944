package fabbrica.core.recipe;

import java.util.Locale;
import java.util.Optional;
import java.util.regex.Matcher;
import java.util.regex.Pattern;

/**
 * What a designer's free text says about printing, as far as it can be told: whether supports are wanted, what holds the
 * first layer, and the layer height.
 */
public record DesignerNotes(Optional<Boolean> supports, Optional<Adhesion> adhesion, Optional<Double> layerHeightMm) {

    private static final Pattern NONE = Pattern.compile(
            "(\\bno|without|don.t (use|need)|not need(ed)?|free of|supportless|support-free)\\W+(\\w+\\W+){0,2}?%s");
    private static final Pattern NOT_AFTER = Pattern.compile("%s\\s*[:=-]?\\s*(no\\b|none|off|not needed|not required)");
    private static final Pattern LAYER = Pattern.compile("(0[.,]\\d{1,2})\\s*(mm)?\\W*(\\w+\\W+)?layer|layer\\D{0,20}(0[.,]\\d{1,2})");

    public static DesignerNotes of(String text) {
        String lower = text.toLowerCase(Locale.ROOT);
        Optional<Adhesion> adhesion = Optional.empty();
        for (Adhesion kind : new Adhesion[] {Adhesion.SKIRT, Adhesion.BRIM, Adhesion.RAFT}) {
            if (wants(lower, kind.code()).orElse(false)) {
                adhesion = Optional.of(kind);
            }
        }
        Matcher layer = LAYER.matcher(lower);
        Optional<Double> height = layer.find() ? Optional.of(Double.valueOf(
                (layer.group(1) == null ? layer.group(4) : layer.group(1)).replace(',', '.'))) : Optional.empty();
        return new DesignerNotes(wants(lower, "support"), adhesion, height);
    }

    public boolean isEmpty() {
        return supports.isEmpty() && adhesion.isEmpty() && layerHeightMm.isEmpty();
    }

    private static Optional<Boolean> wants(String text, String word) {
        if (!text.contains(word)) {
            return Optional.empty();
        }
        boolean refused = Pattern.compile(NONE.pattern().formatted(word)).matcher(text).find()
                || Pattern.compile(NOT_AFTER.pattern().formatted(word + "s?")).matcher(text).find()
                || text.contains(word + "less") || text.contains(word + "-free");
        return Optional.of(!refused);
    }
}
