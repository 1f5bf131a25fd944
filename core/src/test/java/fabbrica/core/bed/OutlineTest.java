package fabbrica.core.bed;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import fabbrica.core.mesh.model.Mesh;
import fabbrica.core.mesh.model.Shapes;
import java.util.ArrayList;
import java.util.List;
import java.util.Random;
import org.junit.jupiter.api.Test;
import org.locationtech.jts.geom.Envelope;
import org.locationtech.jts.geom.Geometry;
import org.locationtech.jts.geom.GeometryFactory;
import org.locationtech.jts.operation.union.UnaryUnionOp;

class OutlineTest {

    /** Compared with the union of the rectangles by the general geometry library. */
    @Test
    void boxes_that_overlap_touch_at_corners_and_leave_hollows_cover_their_union_and_up_to_a_cell_more() {
        Random chance = new Random(3);
        for (int round = 0; round < 20; round++) {
            List<Mesh> boxes = new ArrayList<>();
            List<Geometry> rectangles = new ArrayList<>();
            for (int i = 0; i < 60; i++) {
                int x = chance.nextInt(12) * 5, y = chance.nextInt(12) * 5;
                boxes.add(Shapes.box(5, 5, 2).moved(x, y, 0));
                rectangles.add(new GeometryFactory().toGeometry(new Envelope(x, x + 5, y, y + 5)));
            }
            Outline outline = Outline.of(Shapes.together(boxes.toArray(Mesh[]::new)));
            Geometry union = UnaryUnionOp.union(rectangles);
            double cell = outline.cellMm();
            assertThat(outline.shape().isValid()).isTrue();
            assertThat(outline.shape().buffer(1e-6).covers(union)).isTrue();
            assertThat(union.buffer(1.5 * cell).covers(outline.shape())).isTrue();
            assertThat(outline.shape().getArea()).isCloseTo(union.getArea(), within(1.5 * cell * union.getLength()));
        }
    }
}
