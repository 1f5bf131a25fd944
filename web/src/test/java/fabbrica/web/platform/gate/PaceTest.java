package fabbrica.web.platform.gate;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.mockito.ArgumentMatchers.any;
import static org.mockito.Mockito.mock;
import static org.mockito.Mockito.when;

import java.io.IOException;
import java.util.concurrent.TimeUnit;
import org.apache.coyote.InputBuffer;
import org.junit.jupiter.api.Test;

class PaceTest {

    private final InputBuffer body = mock(InputBuffer.class);
    private long now;
    private final Pace pace = new Pace(body, () -> now);

    @Test
    void a_body_that_comes_steadily_is_read_for_twenty_minutes() throws IOException {
        reads(8192);
        for (int second = 0; second < 20 * 60; second++) {
            assertThat(pace.doRead(null)).isEqualTo(8192);
            now += TimeUnit.SECONDS.toNanos(1);
        }
        now += TimeUnit.SECONDS.toNanos(1);
        assertThatThrownBy(() -> pace.doRead(null)).hasMessageContaining("too slowly");
    }

    @Test
    void drops_are_taken_for_a_while_and_then_no_more() throws IOException {
        reads(1);
        for (int second = 0; second <= 20; second++) {
            pace.doRead(null);
            now += TimeUnit.SECONDS.toNanos(1);
        }
        assertThatThrownBy(() -> pace.doRead(null)).hasMessageContaining("too slowly");
    }

    @Test
    void the_end_of_a_body_is_told_however_late() throws IOException {
        reads(-1);
        now += TimeUnit.HOURS.toNanos(1);
        assertThat(pace.doRead(null)).isEqualTo(-1);
    }

    private void reads(int bytes) throws IOException {
        when(body.doRead(any())).thenReturn(bytes);
    }
}
