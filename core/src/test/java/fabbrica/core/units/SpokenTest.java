package fabbrica.core.units;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.util.Currency;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

class SpokenTest {

    @ParameterizedTest
    @CsvSource({"45, 45 s", "59.6, 1 min", "106, 2 min", "600, 10 min", "3600, 1 h", "7800, 2 h 10 min", "36300, 10 h 05 min"})
    void durations_are_said_in_the_unit_people_use(double seconds, String said) {
        assertThat(Spoken.duration(seconds)).isEqualTo(said);
    }

    @Test
    void sizes_keep_hundredths_only_below_ten_millimetres() {
        assertThat(Spoken.size(42.04, 9.876, 120)).isEqualTo("42 × 9.88 × 120 mm");
    }

    @Test
    void an_inch_is_exactly_25_4_millimetres() {
        // International yard and pound agreement, 1959.
        assertThat(Spoken.inches(25.4, 50.8, 304.8)).isEqualTo("1 × 2 × 12 in");
        assertThat(LengthUnit.FOOT.millimetres()).isEqualTo(304.8);
    }

    @Test
    void one_edge_is_not_edges() {
        assertThat(Spoken.count(1, "edge")).isEqualTo("1 edge");
        assertThat(Spoken.count(12345, "edge")).isEqualTo("12\u202f345 edges");
    }

    @Test
    void money_is_rounded_to_the_smallest_coin_of_its_currency() {
        assertThat(Money.of(2.6545, Currency.getInstance("EUR"))).hasToString("2.65 EUR");
        assertThat(Money.of(120.5, Currency.getInstance("JPY"))).hasToString("121 JPY");
        assertThat(Money.of(0.335, Currency.getInstance("EUR")).times(3)).hasToString("1.02 EUR");
    }

    @Test
    void a_value_out_of_range_is_refused_with_the_range() {
        assertThatThrownBy(() -> OutOfRange.check("Infill", 120, 0, 100, "%"))
                .hasMessage("Infill must be between 0 and 100 %; 120 was given.");
        assertThatThrownBy(() -> OutOfRange.check("Infill", Double.NaN, 0, 100, "%"))
                .hasMessageContaining("not a number");
    }
}
