package fabbrica.web.plan;

import static org.assertj.core.api.Assertions.assertThat;

import fabbrica.web.DemoLabTest;
import fabbrica.web.stores.Inventory;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import org.junit.jupiter.api.Test;
import org.springframework.beans.factory.annotation.Autowired;

@DemoLabTest
class PlateDrawingTest {

    private static final Pattern POINT = Pattern.compile("[ML](-?[\\d.]+) (-?[\\d.]+)");
    private static final double SIMPLIFIED_MM = 0.2;

    @Autowired
    private PlateDrawing drawing;
    @Autowired
    private Plates plates;
    @Autowired
    private Inventory inventory;

    /** The bracket is an L, turned to lie on its corner: its box has another middle then than it had before. */
    @Test
    void what_lies_on_the_bed_is_drawn_on_the_bed_however_it_is_turned() {
        LaidPlate bracket = plates.inState(LaidPlate.State.QUEUED).stream().filter(plate -> plate.name().contains("shelf-bracket")).findFirst().orElseThrow();
        PlateDrawing.Sheet sheet = drawing.of(bracket, inventory.printer(bracket.plan().printerId()).orElseThrow().printer());
        assertThat(sheet.copies()).hasSize(2).allSatisfy(copy -> {
            assertThat(copy.turnDeg() % 90).as("turned").isNotZero();
            Matcher point = POINT.matcher(copy.path());
            while (point.find()) {
                assertThat(copy.x() + Double.parseDouble(point.group(1))).isBetween(-SIMPLIFIED_MM, sheet.width() + SIMPLIFIED_MM);
                assertThat(copy.y() + Double.parseDouble(point.group(2))).isBetween(-SIMPLIFIED_MM, sheet.depth() + SIMPLIFIED_MM);
            }
        });
    }
}
