package fabbrica.web.ticket;

import static org.assertj.core.api.Assertions.assertThat;

import fabbrica.core.mesh.model.Mesh;
import fabbrica.core.mesh.model.Shapes;
import fabbrica.web.DemoLabTest;
import fabbrica.web.Steps;
import java.util.List;
import org.junit.jupiter.api.Test;
import org.springframework.beans.factory.annotation.Autowired;

@DemoLabTest
class PartDrawingTest {

    @Autowired
    private Tickets tickets;
    @Autowired
    private Steps steps;
    @Autowired
    private PartDrawing drawing;

    @Test
    void three_views_with_six_figures_are_drawn() {
        Mesh part = Shapes.box(42, 31, 60);
        String svg = drawing.svg(tickets.ticket(steps.taken(part)).part(), List.of());
        assertThat(svg).contains(">42<", ">31<", ">60<", "from above", "from the front", "from the right");
        assertThat(svg.split("class=\"tick\"")).hasSize(1 + 12);
    }
}
