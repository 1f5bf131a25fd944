package fabbrica.core.ledger;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import fabbrica.core.estimate.Estimate;
import fabbrica.core.estimate.Estimate.LayerHeights;
import fabbrica.core.estimate.Expected;
import fabbrica.core.estimate.MachineCost;
import fabbrica.core.estimate.Phase;
import fabbrica.core.estimate.Tariff;
import fabbrica.core.recipe.Spool;
import java.util.Currency;
import java.util.List;
import java.util.Map;
import java.util.OptionalDouble;
import org.junit.jupiter.api.Test;

class UpgradeTest {

    private static final Spool SPOOL = new Spool("1", "pla", "sand", 500, 24, Currency.getInstance("EUR"));
    private static final Tariff TARIFF = new Tariff(0, 0, 0.2, 0.32, 0, 10, 15, 50, 0, 0.15, 0.2, 0, 0.05, 5, Map.of());

    /** By hand: 50 g of 24 a kilogram are 1.20; 0.5 h at 250 W and 2 h at 100 W are 0.325 kWh, 0.104; 2.5 h at 0.2 are 0.50. */
    @Test
    void a_print_costs_its_plastic_its_electricity_and_its_hours_whatever_members_pay() {
        Estimate estimate = new Estimate(Map.of(Phase.HEAT_BED, 1800.0, Phase.OUTER_WALL, 7200.0), Map.of(), 40_000, 16_000, 50, 1, 100, new LayerHeights(0.2, 0.2), List.of(), List.of(), false);
        Outlay outlay = Outlay.of(Expected.unlearned(estimate), SPOOL, new MachineCost(250, 100, OptionalDouble.empty()), TARIFF);
        assertThat(outlay.seconds()).isEqualTo(9000);
        assertThat(outlay.money()).isCloseTo(1.804, within(1e-9));
        assertThat(Outlay.of(Expected.unlearned(estimate), SPOOL, new MachineCost(250, 100, OptionalDouble.of(1)), TARIFF).money()).isCloseTo(3.804, within(1e-9));
    }

    @Test
    void what_is_saved_is_told_by_the_month_and_pays_the_price_back() {
        Upgrade upgrade = new Upgrade(new Outlay(36_000, 500, 30), new Outlay(18_000, 480, 20), 2 * 365.2425 / 12);
        assertThat(upgrade.hoursSavedAMonth()).isCloseTo(2.5, within(1e-9));
        assertThat(upgrade.moneySavedAMonth()).isCloseTo(5, within(1e-9));
        assertThat(upgrade.timeShare()).isEqualTo(0.5);
        assertThat(upgrade.monthsToPayBack(300).getAsDouble()).isCloseTo(60, within(1e-6));
    }

    @Test
    void what_saves_nothing_never_pays_back() {
        assertThat(new Upgrade(new Outlay(100, 1, 1), new Outlay(50, 1, 1.5), 10).monthsToPayBack(100)).isEmpty();
    }
}
