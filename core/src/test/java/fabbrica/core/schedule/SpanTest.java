package fabbrica.core.schedule;

import static fabbrica.core.schedule.Floors.span;
import static org.assertj.core.api.Assertions.assertThat;

import java.util.List;
import org.junit.jupiter.api.Test;

class SpanTest {

    @Test
    void stretches_that_touch_or_overlap_are_joined() {
        assertThat(Span.joined(List.of(span(50, 60), span(0, 10), span(10, 20), span(55, 70), span(56, 58)))).containsExactly(span(0, 20), span(50, 70));
        assertThat(Span.joined(List.of())).isEmpty();
    }

    @Test
    void what_two_lists_have_in_common_lies_in_both() {
        assertThat(Span.common(List.of(span(0, 100), span(200, 300)), List.of(span(50, 60), span(80, 250), span(300, 400))))
                .containsExactly(span(50, 60), span(80, 100), span(200, 250));
        assertThat(Span.common(List.of(span(0, 10)), List.of())).isEmpty();
    }
}
