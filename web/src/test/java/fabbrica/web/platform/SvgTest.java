package fabbrica.web.platform;

import static org.assertj.core.api.Assertions.assertThat;

import org.junit.jupiter.api.Test;

class SvgTest {

    @Test
    void whatever_is_given_is_escaped() {
        assertThat(new Svg().open("g", "data-name", "\"><script>").text("title", "a < b & c > d").close().toString())
                .isEqualTo("<g data-name=\"&quot;&gt;&lt;script&gt;\"><title>a &lt; b &amp; c &gt; d</title></g>");
    }

    @Test
    void numbers_have_no_more_places_than_can_be_seen_whatever_the_country() {
        assertThat(new Svg().leaf("rect", "x", 1.0 / 3, "y", 2.0, "width", 7).toString()).isEqualTo("<rect x=\"0.33\" y=\"2\" width=\"7\"/>");
        assertThat(Svg.path("M", 1.25, -2, "L", 3, 4.04, "H", 5)).isEqualTo("M1.3 -2L3 4H5");
    }

    @Test
    void elements_left_open_are_ended() {
        assertThat(new Svg().open("svg").open("g").leaf("path").toString()).isEqualTo("<svg><g><path/></g></svg>");
    }
}
