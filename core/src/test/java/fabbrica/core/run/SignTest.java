package fabbrica.core.run;

import static org.assertj.core.api.Assertions.assertThat;

import org.junit.jupiter.api.Test;

class SignTest {

    @Test
    void a_sign_is_said_with_its_height_and_with_its_place_where_that_is_unusual() {
        assertThat(Sign.of(Defect.STRINGS).spoken()).isEqualTo("Strings");
        assertThat(new Sign(Defect.CAME_OFF, Site.BOTTOM, 31.0).spoken()).isEqualTo("Came off the bed, at 31 mm");
        assertThat(new Sign(Defect.GAPS, Site.TOP, 12.25).spoken()).isEqualTo("Thin lines or gaps, on top, at 12.3 mm");
    }
}
