package fabbrica.core.mesh.model;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import fabbrica.core.inspect.Inspection;
import java.util.Random;
import org.junit.jupiter.api.Test;

/** Meshes whose corners disagree by rounding, as exports write each triangle by itself. */
class WeldingTest {

    @Test
    void a_sphere_whose_corners_disagree_by_rounding_is_one_body() {
        Mesh sphere = Shapes.sphere(40, 64, 33), cracked = rounded(sphere, 0.0008);
        assertThat(new HalfEdges(cracked).bodies()).isGreaterThan(1000);
        Mesh closed = Welding.ofRounding(cracked);
        Inspection inspection = Inspection.of(closed);
        assertThat(inspection.soundness().bodies()).hasSize(1);
        assertThat(inspection.soundness().watertight()).isTrue();
        assertThat(inspection.measures().volumeMm3()).isCloseTo(Inspection.of(sphere).measures().volumeMm3(), within(10.0));
    }

    @Test
    void cracks_of_single_floats_far_from_the_origin_are_closed() {
        Mesh far = Shapes.box(10, 10, 10).moved(4000, 0, 0);
        assertThat(new HalfEdges(Welding.ofRounding(rounded(far, 0.0005))).openEdges()).isZero();
    }

    @Test
    void holes_and_slits_that_are_meant_stay() {
        Mesh holed = Shapes.without(Shapes.sphere(10, 24, 12), 3, 40, 77);
        assertThat(Welding.ofRounding(holed)).isSameAs(holed);
        // Two plates 0.05 mm apart, each without its side to the other.
        Mesh slit = Shapes.together(Shapes.without(Shapes.box(20, 20, 5), 0, 1), Shapes.without(Shapes.box(20, 20, 5).moved(0, 0, 5.05), 0, 1));
        assertThat(Welding.ofRounding(slit).vertexCount()).isEqualTo(slit.vertexCount());
    }

    @Test
    void a_sound_mesh_is_left_as_it_is() {
        Mesh sphere = Shapes.sphere(10, 24, 12), pair = Shapes.together(sphere, sphere.moved(30, 0, 0));
        assertThat(Welding.ofRounding(sphere)).isSameAs(sphere);
        assertThat(Welding.ofRounding(pair)).isSameAs(pair);
    }

    private static Mesh rounded(Mesh mesh, double most) {
        Random chance = new Random(5);
        MeshBuilder builder = new MeshBuilder(mesh.triangleCount());
        for (int t = 0; t < mesh.triangleCount(); t++) {
            int[] corners = new int[3];
            for (int i = 0; i < 3; i++) {
                int v = mesh.corner(t, i);
                corners[i] = builder.vertex(mesh.x(v) + most * (chance.nextDouble() - 0.5),
                        mesh.y(v) + most * (chance.nextDouble() - 0.5), mesh.z(v) + most * (chance.nextDouble() - 0.5));
            }
            builder.triangle(corners[0], corners[1], corners[2]);
        }
        return builder.build();
    }
}
