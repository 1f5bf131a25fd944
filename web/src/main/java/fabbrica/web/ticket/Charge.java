package fabbrica.web.ticket;

import fabbrica.core.units.Money;
import java.time.Instant;
import org.jspecify.annotations.Nullable;

/**
 * What a ticket costs its member.
 *
 * @param price   as it was worked out when its copies were queued; null before
 * @param asked   about which the member was asked last; null when she was not
 * @param agreed  the highest price she has said yes to; null when she has not
 * @param paidAt  null until it is paid, as is the number of the receipt
 */
public record Charge(@Nullable Money price, @Nullable Money asked, @Nullable Money agreed, @Nullable Instant paidAt, @Nullable Long receipt) {

    public static final Charge NONE = new Charge(null, null, null, null, null);

    /** Whether there is something to pay. */
    public boolean isDue() {
        return price != null && price.amount().signum() > 0 && paidAt == null;
    }

    /** Whether the member has been asked and has not answered. */
    public boolean waits() {
        return asked != null && (agreed == null || agreed.amount().compareTo(asked.amount()) < 0);
    }
}
