package fabbrica.core.estimate;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import fabbrica.core.estimate.Tariff.Item;
import fabbrica.core.estimate.Tariff.Load;
import fabbrica.core.estimate.Tariff.Quote;
import fabbrica.core.estimate.Tariff.Used;
import fabbrica.core.recipe.Spool;
import fabbrica.core.units.Money;
import java.math.BigDecimal;
import java.util.Collections;
import java.util.Currency;
import java.util.List;
import java.util.Map;
import java.util.OptionalDouble;
import org.junit.jupiter.api.Test;

/** Quotes worked out by hand: 100 g at 25 a kilogram, 2 h, of them 6 min getting ready. */
class TariffTest {

    private static final Spool SPOOL = new Spool("1", "pla", "any", 1000, 25, Currency.getInstance("EUR"));
    private static final MachineCost MACHINE = new MachineCost(300, 120, OptionalDouble.empty());
    private static final Estimate PRINT = new Estimate(Map.of(Phase.HEAT_BED, 360.0, Phase.OUTER_WALL, 6840.0), Map.of(), 80_645, 33_529,
            100, 0, 100, new Estimate.LayerHeights(0.2, 0.2), List.of(), List.of(), false);

    @Test
    void a_lab_that_asks_for_plastic_alone_asks_for_its_price() {
        assertThat(quote(Tariff.PLASTIC_ONLY, Used.NOTHING, 0).total()).hasToString("2.50 EUR");
        assertThat(Tariff.PLASTIC_ONLY.quote(Collections.nCopies(3, load(MachineCost.USUAL, 0)), Used.NOTHING, "").total()).hasToString("7.50 EUR");
    }

    @Test
    void machine_power_labour_and_failures_come_on_top() {
        // 2.50 + 2 h × 1.20 + (360 s × 300 W + 6840 s × 120 W = 0.258 kWh) × 0.40 + 12 min × 20 an hour = 9.00;
        // of ten runs one fails: 9.00 × 0.1 / 0.9 = 1.00.
        Tariff tariff = new Tariff(1, 0, 1.2, 0.4, 20, 12, 15, 0, 0, 0, 0, 0, 0.01, 0, Map.of());
        Quote quote = quote(tariff, Used.NOTHING, 0.1);
        assertThat(amounts(quote)).containsExactly("Plastic 2.50", "Machine 2.40", "Electricity 0.10", "Labour 4.00",
                "For prints that fail 1.00");
        assertThat(quote.total()).hasToString("10.00 EUR");
    }

    @Test
    void a_printer_with_a_price_of_its_own_costs_that_an_hour() {
        Tariff tariff = new Tariff(0, 0, 1.2, 0, 0, 0, 0, 0, 0, 0, 0, 0, 0.01, 0, Map.of());
        MachineCost dear = new MachineCost(0, 0, OptionalDouble.of(3));
        assertThat(tariff.quote(List.of(load(dear, 0)), Used.NOTHING, "").total()).hasToString("6.00 EUR");
    }

    @Test
    void what_is_free_this_month_is_taken_off_as_far_as_it_is_left() {
        Tariff tariff = new Tariff(1, 0, 1, 0, 0, 0, 0, 80, 1, 0, 0, 0, 0.01, 0, Map.of());
        assertThat(quote(tariff, Used.NOTHING, 0).total()).hasToString("1.50 EUR");
        assertThat(quote(tariff, new Used(60, 5), 0).total()).hasToString("4.00 EUR");
        assertThat(quote(tariff, new Used(500, 5), 0).total()).hasToString("4.50 EUR");
    }

    @Test
    void fine_layers_member_rates_vat_and_rounding_follow_in_this_order() {
        Tariff tariff = new Tariff(1, 0, 0, 0, 0, 0, 0, 0, 0, 0.25, 0.2, 0.19, 0.05, 0,
                Map.of("Students", 0.5));
        Quote quote = tariff.quote(List.of(load(MachineCost.USUAL, 0)), Used.NOTHING, "Students");
        // (2.50 + 20 %) × ½ = 1.50, + 19 % = 1.785 → 1.79, to the next 0.05: 1.80.
        assertThat(amounts(quote)).containsExactly("Plastic 2.50", "Fine layers 0.50", "Rate for Students -1.50", "VAT 0.29",
                "Rounding 0.01");
        assertThat(quote.total()).hasToString("1.80 EUR");
        assertThat(quote.items().stream().map(item -> item.amount().amount()).reduce(BigDecimal.ZERO, BigDecimal::add))
                .isEqualByComparingTo(quote.total().amount());
    }

    @Test
    void a_house_price_by_the_gram_does_not_ask_what_the_spool_cost() {
        Tariff tariff = new Tariff(0, 0.06, 0, 0, 0, 0, 0, 0, 0, 0, 0, 0, 0.01, 0, Map.of("Staff", 0.0));
        assertThat(quote(tariff, Used.NOTHING, 0).total()).hasToString("6.00 EUR");
        assertThat(tariff.quote(List.of(load(MachineCost.USUAL, 0)), Used.NOTHING, "Staff").total()).hasToString("0.00 EUR");
        assertThatThrownBy(() -> new Tariff(0, -1, 0, 0, 0, 0, 0, 0, 0, 0, 0, 0, 0.01, 0, Map.of()))
                .hasMessageContaining("Price per gram must be between 0 and 1000");
        assertThatThrownBy(() -> new Tariff(0, 0, 0, 0, 0, 0, 0, 0, 0, 0, 0, 0, 0.01, 0, Map.of("Guests", -0.2)))
                .hasMessageContaining("Rate for Guests must be between 0 and 1000 %");
    }

    private static Quote quote(Tariff tariff, Used used, double failures) {
        return tariff.quote(List.of(load(MACHINE, failures)), used, "");
    }

    private static List<String> amounts(Quote quote) {
        return quote.items().stream().map((Item item) -> item.what() + " " + item.amount().amount()).toList();
    }

    private static Load load(MachineCost machine, double failures) {
        return Load.of(Expected.unlearned(PRINT), 0.2, SPOOL, machine, failures);
    }

    @Test
    void what_is_printed_on_several_printers_from_several_spools_is_added_up() {
        // 2.50 of plastic and 2 h at 3.00 on the one; 50 g at 40 a kilogram, an hour at 1.20 and half the labour of 12 min at 20 on the other,
        // whose runs fail once in five: (2.50 + 6.00 + 4.00) + (2.00 + 1.20 + 2.00) × 1.25 = 19.00.
        Tariff tariff = new Tariff(1, 0, 1.2, 0, 20, 12, 0, 0, 0, 0, 0, 0, 0.01, 0, Map.of());
        Load other = new Load(50, 3600, 0, 0.5, 0, 0.2, new Spool("2", "petg", "any", 500, 40, Currency.getInstance("EUR")), MACHINE, 0.2);
        Quote quote = tariff.quote(List.of(load(new MachineCost(0, 0, OptionalDouble.of(3)), 0), other), Used.NOTHING, "");
        assertThat(amounts(quote)).containsExactly("Plastic 4.50", "Machine 7.20", "Labour 6.00", "For prints that fail 1.30");
        assertThat(quote.total()).hasToString("19.00 EUR");
    }

    @Test
    void a_price_above_the_limit_is_asked_about_until_somebody_has_said_yes_to_as_much() {
        Tariff tariff = new Tariff(1, 0, 0, 0, 0, 0, 0, 0, 0, 0, 0, 0, 0.01, 5, Map.of());
        Currency eur = Currency.getInstance("EUR");
        assertThat(tariff.asksAbout(Money.of(5, eur), null)).isFalse();
        assertThat(tariff.asksAbout(Money.of(5.01, eur), null)).isTrue();
        assertThat(tariff.asksAbout(Money.of(7, eur), Money.of(7, eur))).isFalse();
        assertThat(tariff.asksAbout(Money.of(7.01, eur), Money.of(7, eur))).isTrue();
        assertThat(Tariff.PLASTIC_ONLY.asksAbout(Money.of(700, eur), null)).isFalse();
    }
}
