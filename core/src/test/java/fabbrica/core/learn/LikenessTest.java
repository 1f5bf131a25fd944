package fabbrica.core.learn;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import fabbrica.core.inspect.Inspection;
import fabbrica.core.mesh.model.Mesh;
import fabbrica.core.mesh.model.Shapes;
import org.junit.jupiter.api.Test;

class LikenessTest {

    private static final Likeness TOWER = of(Shapes.box(6, 6, 80));

    private static Likeness of(Mesh mesh) {
        return Likeness.of(Inspection.of(mesh));
    }

    @Test
    void a_box_has_the_traits_that_a_ruler_tells() {
        assertThat(TOWER).isEqualTo(new Likeness(80, 36, 2880, 36, 0));
        assertThat(TOWER.ratio(TOWER)).isEqualTo(1);
    }

    @Test
    void what_stands_and_hangs_about_as_much_is_alike_whatever_it_shows() {
        assertThat(TOWER.isLike(of(Shapes.box(6.5, 6, 88)))).isTrue();
        assertThat(TOWER.isLike(of(Shapes.cylinder(3.4, 80, 48)))).isTrue();
    }

    @Test
    void the_same_part_lying_down_or_twice_as_large_prints_otherwise() {
        assertThat(TOWER.isLike(of(Shapes.box(80, 6, 6)))).isFalse();
        assertThat(TOWER.isLike(of(Shapes.box(12, 12, 160)))).isFalse();
    }

    @Test
    void it_is_the_same_from_either_side_and_at_any_size() {
        Likeness large = of(Shapes.box(60, 60, 800)), larger = of(Shapes.box(72, 60, 800)), small = of(Shapes.box(30, 30, 400)), smaller = of(Shapes.box(36, 30, 400));
        assertThat(large.ratio(larger)).isEqualTo(larger.ratio(large)).isCloseTo(small.ratio(smaller), within(0.005));
    }

    @Test
    void none_is_alike_that_is_farther_away_in_one_trait_alone() {
        Likeness taller = new Likeness(TOWER.heightMm() * Likeness.most() * 1.001, TOWER.contactMm2(), TOWER.volumeMm3(), TOWER.shadowMm2(), 0);
        Likeness nearly = new Likeness(TOWER.heightMm() * Likeness.most() * 0.999, TOWER.contactMm2(), TOWER.volumeMm3(), TOWER.shadowMm2(), 0);
        assertThat(TOWER.isLike(taller)).isFalse();
        assertThat(TOWER.isLike(nearly)).isTrue();
    }
}
