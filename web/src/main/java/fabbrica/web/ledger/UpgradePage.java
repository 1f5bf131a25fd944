package fabbrica.web.ledger;

import fabbrica.core.ledger.Outlay;
import fabbrica.core.ledger.Upgrade;
import fabbrica.core.units.Money;
import fabbrica.core.units.Spoken;
import fabbrica.web.floor.Run;
import fabbrica.web.platform.Standing;
import fabbrica.web.stores.StockPrinter;
import java.util.Currency;
import java.util.List;
import java.util.OptionalDouble;
import org.jspecify.annotations.Nullable;

/**
 * The form, and what came of it.
 *
 * @param outcome null until something is asked
 */
record UpgradePage(List<StockPrinter> printers, Currency currency, String query, @Nullable Standing<Outcome> outcome) {

    /** A run on both machines. */
    record Row(Run run, Outlay was, Outlay would) {
    }

    /** A run that cannot be replayed there. */
    record LeftOut(Run run, String why) {
    }

    /** What came of it. */
    record Outcome(Upgrade upgrade, List<Row> rows, List<LeftOut> leftOut, Currency currency, double price) {

        public String money(double amount) {
            return Money.of(amount, currency).toString();
        }

        /** "It would have saved 3.2 h a month, 18 % of the time, and 1.40 EUR." */
        public String sentence() {
            double hours = upgrade.hoursSavedAMonth(), saved = upgrade.moneySavedAMonth();
            String time = "%s h a month, %s of the time,".formatted(Spoken.number(Math.abs(hours), 1), Spoken.percent(Math.abs(upgrade.timeShare())));
            return "It would have %s %s and %s %s a month for plastic, electricity and machine hours.".formatted(hours >= 0 ? "saved" : "taken", hours >= 0 ? time : time + " more",
                    saved >= 0 ? "saved" : "cost", money(Math.abs(saved)) + (saved >= 0 ? "" : " more"));
        }

        /** When the price would be earned; empty without a price. */
        public String payback() {
            OptionalDouble months = upgrade.monthsToPayBack(price);
            return price == 0 ? "" : months.isEmpty() ? "It saves no money, so that its price is never earned; what counts are the hours."
                    : "At that rate its price is earned in %s months.".formatted(Spoken.number(months.getAsDouble(), months.getAsDouble() < 10 ? 1 : 0));
        }
    }

    public @Nullable Outcome done() {
        return outcome instanceof Standing.Done<Outcome>(Outcome value) ? value : null;
    }

    public Standing.@Nullable Working<Outcome> working() {
        return outcome instanceof Standing.Working<Outcome> working ? working : null;
    }

    public @Nullable String failed() {
        return outcome instanceof Standing.Failed<Outcome>(String sentence) ? sentence : null;
    }
}
