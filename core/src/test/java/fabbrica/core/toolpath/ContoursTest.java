package fabbrica.core.toolpath;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import fabbrica.core.mesh.model.Mesh;
import fabbrica.core.mesh.model.Shapes;
import fabbrica.core.recipe.Adhesion;
import fabbrica.core.recipe.InfillPattern;
import fabbrica.core.recipe.Recipe;
import fabbrica.core.toolpath.HatchLines.Ruling;
import fabbrica.core.units.Progress;
import java.util.List;
import org.junit.jupiter.api.Test;

class ContoursTest {

    @Test
    void layers_are_counted_from_a_first_one_of_its_own_height() {
        LayerStack stack = LayerStack.of(20, 0.3, 0.2);
        assertThat(stack.count()).isEqualTo(1 + 99);
        assertThat(stack.cutMm(0)).isCloseTo(0.15, within(1e-12));
        assertThat(stack.cutMm(1)).isCloseTo(0.4, within(1e-12));
        assertThat(LayerStack.of(20, 0.2, 0.2).count()).isEqualTo(100);
        assertThat(LayerStack.of(0.1, 0.2, 0.2).count()).isEqualTo(1);
    }

    @Test
    void the_layer_above_a_height_is_found_wherever_the_height_lies() {
        LayerStack stack = LayerStack.of(10, 0.3, 0.2);
        for (double height = -0.1; height < 10.2; height += 0.013) {
            int above = stack.firstCutAbove(height);
            assertThat(above == stack.count() || stack.cutMm(above) > height).isTrue();
            assertThat(above == 0 || stack.cutMm(above - 1) <= height).isTrue();
        }
    }

    @Test
    void a_box_is_cut_into_its_square_with_the_solid_on_the_left() {
        List<double[]> contours = cut(Shapes.box(20, 10, 5), 7);
        assertThat(contours).hasSize(1);
        assertThat(Rings.signedArea(contours.getFirst())).isCloseTo(200, within(1e-9));
    }

    @Test
    void a_tube_is_cut_into_a_ring_whose_hole_runs_the_other_way() {
        List<double[]> contours = cut(Shapes.revolution(new double[] {8, 0, 10, 0, 10, 5, 8, 5}, 36), 3);
        assertThat(contours).hasSize(2);
        assertThat(contours.stream().mapToDouble(Rings::signedArea).sum())
                .isCloseTo(18 * 36 * Math.sin(Math.PI / 18), within(1e-9));
    }

    @Test
    void the_integral_of_layer_areas_is_the_volume() {
        // Cavalieri's principle; cone and sphere in closed form.
        double cone = areaSum(Shapes.cone(15, 3, 30, 90)) * 0.2;
        double polygon = 45 * Math.sin(Math.PI / 45);
        assertThat(cone).isCloseTo(polygon * 30 / 3 * (225 + 45 + 9), within(cone * 0.001));
        double sphere = areaSum(Shapes.sphere(20, 120, 80)) * 0.2;
        assertThat(sphere).isCloseTo(4 / 3.0 * Math.PI * 8000, within(sphere * 0.003));
    }

    @Test
    void a_layer_that_is_cut_right_through_corners_has_its_area_too() {
        Mesh spindle = Shapes.revolution(new double[] {0, 0, 4, 0, 10, 1.25, 4, 2.5, 0, 2.5}, 60);
        LayerStack stack = LayerStack.of(2.5, 0.5, 0.5);
        assertThat(stack.cutMm(2)).isEqualTo(1.25);
        assertThat(solid(new ContourCutter(spindle, 0, stack).cut(2)))
                .isCloseTo(30 * Math.sin(Math.PI / 30) * 100, within(1e-9));
    }

    @Test
    void layers_of_a_solid_with_sloping_sides_add_up_to_its_volume_by_the_prismatoid_formula() {
        // V = h / 6 · (A₀ + 4·A½ + A₁) for a cone cut off, within 0.1 %; the same of the mesh itself.
        Recipe recipe = new Recipe(0.2, 0.2, 0.4, 2, 3, 3, 0.1, InfillPattern.LINES, Adhesion.NONE, 60);
        Mesh[] solids = {Shapes.cone(18, 6, 24, 90), Shapes.cone(3, 15, 20, 8), fabbrica.core.mesh.model.LevelSet.gyroid(24, 40)};
        for (Mesh solid : solids) {
            Slices slices = Slices.of(solid, recipe, Progress.IGNORED);
            double sum = 0, volume = 0;
            for (int layer = 0; layer < slices.count(); layer++) {
                sum += slices.areaMm2(layer) * slices.heightMm(layer);
            }
            for (int t = 0; t < solid.triangleCount(); t++) {
                volume += solid.volumeFrom(0, t);
            }
            assertThat(sum).isCloseTo(volume, within(volume * 0.001));
        }
        double polygon = 45 * Math.sin(Math.PI / 45), prismatoid = 24 / 6.0 * polygon * (18 * 18 + 4 * 12 * 12 + 6 * 6);
        Slices cone = Slices.of(solids[0], recipe, Progress.IGNORED);
        double sum = 0;
        for (int layer = 0; layer < cone.count(); layer++) {
            sum += cone.areaMm2(layer) * cone.heightMm(layer);
        }
        assertThat(sum).isCloseTo(prismatoid, within(prismatoid * 0.001));
    }

    @Test
    void layer_areas_are_those_of_the_reference_whatever_overlaps() {
        // Three bodies that overlap, against the union of JTS.
        Mesh bodies = Shapes.together(Shapes.cylinder(10, 6, 37), Shapes.box(20, 6, 6).moved(-3, 1.3, 0),
                Shapes.cylinder(6, 6, 29).moved(9, 5, 0));
        double expected = Shapes.disc(0, 0, 10, 37).union(Shapes.rectangle(-3, 1.3, 17, 7.3)).union(Shapes.disc(9, 5, 6, 29)).getArea();
        assertThat(area(bodies)).isCloseTo(expected, within(expected * 0.001));
    }

    @Test
    void a_mesh_with_a_hole_still_gives_closed_contours() {
        Mesh holed = Shapes.without(Shapes.cylinder(10, 10, 24), 50);
        for (int layer = 0; layer < 50; layer++) {
            assertThat(solid(cut(holed, layer))).isCloseTo(12 * 100 * Math.sin(Math.PI / 12),
                    within(4.0));
        }
    }

    @Test
    void overlapping_bodies_merge_and_bodies_inside_others_add_nothing() {
        Mesh overlapping = Shapes.together(Shapes.box(10, 10, 5), Shapes.box(10, 10, 5).moved(6, 0, 0));
        assertThat(area(overlapping)).isCloseTo(160, within(1e-6));
        Mesh inside = Shapes.together(Shapes.box(10, 10, 5), Shapes.box(4, 4, 5).moved(3, 3, 0));
        assertThat(area(inside)).isCloseTo(100, within(1e-6));
    }

    @Test
    void an_island_in_a_hole_is_solid_again() {
        Mesh tube = Shapes.extrusion((org.locationtech.jts.geom.Polygon) Shapes.rectangle(0, 0, 20, 20)
                .difference(Shapes.rectangle(5, 5, 15, 15)), 5);
        assertThat(area(Shapes.together(tube, Shapes.box(4, 4, 5).moved(8, 8, 0)))).isCloseTo(316, within(1e-6));
    }

    @Test
    void simplifying_keeps_corners_and_drops_points_within_the_tolerance() {
        double[] dense = new double[800];
        for (int i = 0; i < 400; i++) {
            double along = i % 100 / 100.0 * 10;
            dense[2 * i] = i < 100 ? along : i < 200 ? 10 : i < 300 ? 10 - along : 0;
            dense[2 * i + 1] = i < 100 ? 0.004 * (i % 2) : i < 200 ? along : i < 300 ? 10 : 10 - along;
        }
        double[] simple = RingSimplifier.simplify(dense, 0.01);
        assertThat(simple).hasSizeLessThan(12);
        assertThat(Rings.signedArea(simple)).isCloseTo(100, within(0.1));
        assertThat(RingSimplifier.simplify(new double[] {0, 0, 1, 0, 2, 0}, 0.01)).isEmpty();
    }

    @Test
    void hatch_lines_cover_the_area_at_their_distance() {
        List<double[]> square = List.of(new double[] {0, 0, 20, 0, 20, 20, 0, 20});
        for (double direction : new double[] {0, 30, 45, 90, 135}) {
            assertThat(HatchLines.of(square, Ruling.of(direction, 0.4)).lengthMm() * 0.4).isCloseTo(400, within(1.0));
        }
        assertThat(HatchLines.of(List.of(), Ruling.of(45, 0.4)).lengthMm()).isZero();
    }

    @Test
    void hatches_are_intersected_and_subtracted_like_the_areas_they_came_from() {
        HatchLines big = HatchLines.of(List.of(new double[] {0, 0, 20, 0, 20, 20, 0, 20}), Ruling.of(45, 0.1));
        HatchLines small = HatchLines.of(List.of(new double[] {5, 5, 30, 5, 30, 15, 5, 15}), Ruling.of(45, 0.1));
        assertThat(big.and(small).lengthMm() * 0.1).isCloseTo(150, within(0.5));
        assertThat(big.minus(small).lengthMm() * 0.1).isCloseTo(250, within(0.5));
        assertThat(big.minus(big).lengthMm()).isZero();
        assertThat(big.minus(HatchLines.of(List.of(), Ruling.of(45, 0.1))).lengthMm()).isEqualTo(big.lengthMm());
    }

    private static List<double[]> cut(Mesh mesh, int layer) {
        return new ContourCutter(mesh, mesh.bounds().minZ(), LayerStack.of(mesh.bounds().sizeZ(), 0.2, 0.2)).cut(layer);
    }

    private static double area(Mesh mesh) {
        return solid(cut(mesh, 3));
    }

    private static double solid(List<double[]> contours) {
        return Island.areaMm2(SolidArea.of(contours).islands());
    }

    private static double areaSum(Mesh mesh) {
        LayerStack stack = LayerStack.of(mesh.bounds().sizeZ(), 0.2, 0.2);
        ContourCutter cutter = new ContourCutter(mesh, mesh.bounds().minZ(), stack);
        double sum = 0;
        for (int layer = 0; layer < stack.count(); layer++) {
            sum += solid(cutter.cut(layer));
        }
        return sum;
    }
}
