package fabbrica.core.gcode;

import java.util.ArrayList;
import java.util.List;
import org.jspecify.annotations.Nullable;

/**
 * Whether amounts of filament are meant step by step or from the last zero. M82 and M83 say so; G90 and G91 say it of the
 * axes, and of the filament too as long as neither M82 nor M83 came. Once they have, machines differ in whether G90 and G91
 * still speak for the filament: then what follows decides. Amounts from a zero grow with every line that is laid, which
 * amounts meant step by step do not.
 */
final class AmountMode {

    private static final int ENOUGH = 40;
    private static final int MOST_HELD = 10_000;
    /** Share of laid lines whose amount does not grow, above which amounts are steps. */
    private static final double STEPS_FROM = 0.2;

    private boolean relative;
    private boolean said;
    /** Whether G90 and G91 speak for the filament although M82 or M83 came; null until a file has shown it. */
    private @Nullable Boolean follows;

    /** Lines held back until it can be told how they are meant. */
    private final List<GcodeLine> held = new ArrayList<>();
    private boolean asked;
    private boolean wanted;
    private long askedAt;
    private double last;
    private int laid;
    private int notGrown;
    private double asSteps;
    private double fromZero;

    boolean isRelative() {
        return relative;
    }

    /** M82 or M83. */
    void say(boolean steps) {
        relative = steps;
        said = true;
    }

    /** G90 or G91, after which it may be {@link #asks asked} what is meant; {@code amount} is the one reached so far, in the file's unit. */
    void axes(boolean steps, double amount, long line) {
        if (!said || Boolean.TRUE.equals(follows)) {
            relative = steps;
            return;
        }
        if (follows != null || steps == relative) {
            return;
        }
        asked = true;
        wanted = steps;
        askedAt = line;
        last = amount;
        laid = 0;
        notGrown = 0;
        asSteps = 0;
        fromZero = 0;
    }

    /** Whether lines are to be held back until enough was seen of them. */
    boolean asks() {
        return asked;
    }

    long askedAt() {
        return askedAt;
    }

    /** Holds a line back, and looks at the amount on it. @return whether enough was seen */
    boolean holds(GcodeLine line) {
        held.add(line.kept());
        boolean mode = line.is('G', 90) || line.is('G', 91) || line.is('M', 82) || line.is('M', 83);
        if (line.has('E') && line.is('G', 92)) {
            last = line.value('E', 0);
        } else if (line.has('E') && (line.letter() == 0 || line.letter() == 'G' && line.code() <= 3)) {
            double amount = line.value('E', 0);
            asSteps += Math.abs(amount);
            fromZero += Math.abs(amount - last);
            if (line.has('X') || line.has('Y')) {
                laid++;
                notGrown += amount <= last ? 1 : 0;
            }
            last = amount;
        }
        return mode || laid >= ENOUGH || held.size() == MOST_HELD;
    }

    /** Whether what was held comes out differently by steps and from zero. */
    boolean matters() {
        return Math.abs(asSteps - fromZero) > 1e-9;
    }

    /** Decides by what was held. @return the lines to go on with */
    List<GcodeLine> decide() {
        boolean steps = laid > 1 ? notGrown > STEPS_FROM * laid : asSteps < fromZero || asSteps == fromZero && relative;
        if (laid > 1) {
            follows = steps == wanted;
        }
        relative = steps;
        asked = false;
        List<GcodeLine> lines = List.copyOf(held);
        held.clear();
        return lines;
    }
}
