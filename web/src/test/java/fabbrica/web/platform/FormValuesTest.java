package fabbrica.web.platform;

import static org.assertj.core.api.Assertions.assertThat;

import fabbrica.core.units.OutOfRange;
import org.junit.jupiter.api.Test;
import org.springframework.util.LinkedMultiValueMap;

class FormValuesTest {

    private final LinkedMultiValueMap<String, String> values = new LinkedMultiValueMap<>();
    private final FormValues form = new FormValues(values);

    @Test
    void numbers_are_read_with_a_point_or_a_comma() {
        values.set("a", " 0.25 ");
        values.set("b", "0,25");
        assertThat(form.number("a", "A")).isEqualTo(form.number("b", "B")).isEqualTo(0.25);
        assertThat(form.fine()).isTrue();
    }

    @Test
    void text_where_a_number_belongs_is_quoted_back_and_all_problems_come_at_once() {
        values.set("walls", "three");
        values.set("infill", "NaN");
        values.set("top", "2.5");
        form.count("walls", "Walls");
        form.number("infill", "Infill");
        form.count("top", "Top");
        form.number("speed", "Speed");
        assertThat(form.problems()).containsExactly("Walls takes a number; “three” was given.",
                "Infill takes a number; “NaN” was given.", "Top takes a whole number; “2.5” was given.",
                "Speed is missing.");
    }

    @Test
    void the_rows_of_a_table_are_read_one_by_one_and_their_problems_are_the_forms() {
        values.add("left", "1");
        values.add("left", "far");
        values.add("right", "2");
        assertThat(form.row(0).number("left", "Left")).isEqualTo(1);
        assertThat(form.row(1).text("right")).isEmpty();
        form.row(1).number("left", "Left of row 2");
        assertThat(form.problems()).containsExactly("Left of row 2 takes a number; “far” was given.");
    }

    @Test
    void a_value_out_of_range_becomes_a_sentence_too() {
        assertThat(form.made(() -> OutOfRange.check("Scale", 0, 1, 100, "%"))).isEmpty();
        assertThat(form.problems()).containsExactly("Scale must be between 1 and 100 %; 0 was given.");
    }

    @Test
    void a_moment_that_is_none_is_refused() {
        values.set("at", "next tuesday");
        assertThat(form.moment("at", "Needed by")).isEmpty();
        assertThat(form.problems()).containsExactly("Needed by takes a date and a time; “next tuesday” was given.");
    }
}
