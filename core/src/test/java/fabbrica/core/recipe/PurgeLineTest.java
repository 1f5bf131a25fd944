package fabbrica.core.recipe;

import static org.assertj.core.api.Assertions.assertThat;

import fabbrica.core.bed.Bed;
import java.util.List;
import org.junit.jupiter.api.Test;

class PurgeLineTest {

    @Test
    void it_runs_along_the_front_edge_for_six_centimetres() {
        PurgeLine line = PurgeLine.on(Bed.of(220, 220, 250));
        assertThat(line.toX() - line.fromX()).isEqualTo(60);
        assertThat(line.zone().maxY()).isLessThan(4);
    }

    @Test
    void it_stays_beside_what_the_bed_keeps_free() {
        Bed.Zone corner = new Bed.Zone(0, 0, 18, 28), clip = new Bed.Zone(60, 0, 80, 10);
        PurgeLine line = PurgeLine.on(new Bed(220, 220, 250, List.of(corner)));
        assertThat(line.zone().minX()).isGreaterThanOrEqualTo(18);
        PurgeLine between = PurgeLine.on(new Bed(220, 220, 250, List.of(clip)));
        assertThat(between.zone().maxX() <= 60 || between.zone().minX() >= 80).isTrue();
    }

    @Test
    void a_printer_with_a_start_of_its_own_keeps_its_whole_bed() {
        Printer standard = BuiltIn.printer("standard").orElseThrow();
        assertThat(standard.freeBed().keepOut()).hasSize(1);
        assertThat(standard.with(new OwnWay("G28", "")).freeBed()).isEqualTo(standard.bed());
    }
}
