package fabbrica.core.judge;

import fabbrica.core.inspect.Inspection;
import fabbrica.core.inspect.PrintLimits;
import java.util.Optional;

/**
 * Why a part should lie another way than it does: common practice, no source: turn it before supporting it, onto a face on which it
 * stands.
 *
 * @param reason a sentence
 */
public record TurnAdvice(String reason) {

    /** Of the supports as it lies, what another way has to save to be worth a turn (a judgement of ours). */
    private static final double WORTH_TURNING = 0.5;

    /** Whether anything is wrong with how a part lies that another way may cure. */
    public static boolean mayHelp(Inspection now, PrintLimits limits) {
        return SupportAdvice.of(now, limits).wanted() || shaky(now);
    }

    /** Nothing when the other way is no better, or cures one thing for another. */
    public static Optional<TurnAdvice> of(Inspection now, Inspection other, PrintLimits limits) {
        boolean supportsNow = SupportAdvice.of(now, limits).wanted(), supportsThen = SupportAdvice.of(other, limits).wanted();
        if (shaky(other) && !shaky(now) || supportsThen && !supportsNow) {
            return Optional.empty();
        }
        if (supportsNow && !supportsThen) {
            return Optional.of(new TurnAdvice("It needs no supports this way."));
        }
        if (supportsNow && other.columns().supportMm3() < WORTH_TURNING * now.columns().supportMm3()) {
            return Optional.of(new TurnAdvice("It needs less than half the supports this way."));
        }
        return shaky(now) && !shaky(other) ? Optional.of(new TurnAdvice("It stands firmly this way.")) : Optional.empty();
    }

    private static boolean shaky(Inspection inspection) {
        return !inspection.stand().stable() || inspection.stand().smallContact();
    }
}
