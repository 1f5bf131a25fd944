package fabbrica.core.inspect;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import fabbrica.core.inspect.Poses.Pose;
import fabbrica.core.mesh.model.Mesh;
import fabbrica.core.mesh.model.Rotation;
import fabbrica.core.mesh.model.Shapes;
import java.util.List;
import java.util.Random;
import org.junit.jupiter.api.Test;

/** Statics and closed forms of simple solids (any textbook of mechanics). */
class PosesTest {

    @Test
    void a_box_on_edge_is_laid_on_a_face_without_overhang() {
        Mesh tilted = Shapes.box(40, 30, 5).turned(new Rotation(0.8, 0.4, 0.3, -0.2));
        Pose best = Poses.of(tilted).getFirst();
        assertThat(best.contactMm2()).isCloseTo(1200, within(1e-6));
        assertThat(best.overhangMm2()).isZero();
        assertThat(best.heightMm()).isCloseTo(5, within(1e-6));
        assertThat(best.stable()).isTrue();
    }

    @Test
    void a_mushroom_stands_on_its_cap() {
        Mesh mushroom = Shapes.revolution(new double[] {0, 0, 5, 0, 5, 20, 15, 20, 15, 25, 0, 25}, 90);
        Pose best = Poses.of(mushroom).getFirst();
        assertThat(best.overhangMm2()).isZero();
        assertThat(best.supportMm3()).isCloseTo(0, within(1.0));
        double[] m = best.rotation().matrix();
        assertThat(m[8]).as("upside down").isCloseTo(-1, within(1e-9));
    }

    @Test
    void poses_are_few_distinct_and_sorted_by_score() {
        List<Pose> poses = Poses.of(Shapes.extrusion(Shapes.polygon(0, 0, 60, 0, 60, 10, 10, 10, 10, 40, 0, 40), 20));
        assertThat(poses).hasSizeBetween(3, 5);
        assertThat(poses).isSortedAccordingTo((a, b) -> Double.compare(b.score(), a.score()));
        assertThat(poses.stream().map(Pose::rotation).distinct()).hasSize(poses.size());
    }

    @Test
    void a_fine_mesh_is_scored_on_a_coarser_copy_and_measured_on_itself() {
        Mesh bowl = Shapes.sphere(20, 400, 201).turned(new Rotation(1, 0.2, 0.1, 0));
        assertThat(bowl.triangleCount()).isGreaterThan(100_000);
        for (Pose pose : Poses.of(bowl)) {
            assertThat(pose.heightMm()).isCloseTo(40, within(0.02));
        }
    }

    @Test
    void the_centre_of_mass_of_a_cone_lies_at_a_quarter_of_its_height() {
        Stand cone = Inspection.of(Shapes.cone(10, 0, 40, 360)).stand();
        assertThat(cone.massZ()).isCloseTo(10, within(1e-3));
        assertThat(cone.tippingDeg()).isCloseTo(45, within(0.1));
        assertThat(cone.stable()).isTrue();
    }

    @Test
    void a_tower_tips_at_half_its_width_over_half_its_height() {
        Stand tower = Inspection.of(Shapes.box(4, 20, 100)).stand();
        assertThat(tower.tippingDeg()).isCloseTo(Math.toDegrees(Math.atan(2 / 50.0)), within(1e-9));
        assertThat(tower.stable()).isFalse();
    }

    @Test
    void what_leans_beyond_its_foot_cannot_stand() {
        Mesh leaning = Shapes.extrusion(Shapes.polygon(0, 0, 10, 0, 60, 50, 50, 50), 10)
                .turned(Rotation.bringingDown(0, -1, 0));
        assertThat(Inspection.of(leaning).stand().tippingDeg()).isNegative();
    }

    @Test
    void a_ball_stands_on_a_point_and_rolls() {
        Stand ball = Inspection.of(Shapes.sphere(20, 60, 31)).stand();
        assertThat(ball.stable()).isFalse();
        assertThat(ball.contactMm2()).isLessThan(2);
    }

    @Test
    void bringing_down_any_direction_points_it_straight_down() {
        Random chance = new Random(3);
        for (int i = 0; i < 200; i++) {
            double x = chance.nextGaussian(), y = chance.nextGaussian(), z = chance.nextGaussian();
            double[] m = Rotation.bringingDown(x, y, z).matrix();
            double length = Math.sqrt(x * x + y * y + z * z);
            assertThat((m[6] * x + m[7] * y + m[8] * z) / length).isCloseTo(-1, within(1e-12));
            assertThat(m[0] * (m[4] * m[8] - m[5] * m[7]) - m[1] * (m[3] * m[8] - m[5] * m[6])
                    + m[2] * (m[3] * m[7] - m[4] * m[6])).as("no mirror").isCloseTo(1, within(1e-12));
        }
        assertThat(Rotation.bringingDown(0, 0, 1).matrix()[8]).isCloseTo(-1, within(1e-12));
    }

    @Test
    void one_rotation_after_another_is_their_product() {
        Rotation first = new Rotation(0.9, 0.1, -0.3, 0.2), second = new Rotation(0.2, 0.5, 0.4, -0.7);
        Mesh box = Shapes.box(1, 2, 3);
        Mesh both = box.turned(first.then(second)), oneByOne = box.turned(first).turned(second);
        for (int v = 0; v < box.vertexCount(); v++) {
            assertThat(both.x(v)).isCloseTo(oneByOne.x(v), within(1e-12));
            assertThat(both.z(v)).isCloseTo(oneByOne.z(v), within(1e-12));
        }
    }
}
