package fabbrica.core.run;

import static org.assertj.core.api.Assertions.assertThat;

import org.junit.jupiter.api.Test;

class PromiseTest {

    @Test
    void real_against_promised_is_said_in_whole_per_cent() {
        assertThat(new Deviation(60, 75).spoken()).isEqualTo("25 % over");
        assertThat(new Deviation(60, 54).spoken()).isEqualTo("10 % under");
        assertThat(new Deviation(60, 60.1).spoken()).isEqualTo("as promised");
        assertThat(new Deviation(0, 5).deviation()).isZero();
    }

    @Test
    void every_defect_names_its_causes() {
        assertThat(Defect.values()).allSatisfy(defect -> {
            assertThat(defect.usualCauses()).isNotBlank();
            assertThat(defect.code()).doesNotContain("_");
        });
    }
}
