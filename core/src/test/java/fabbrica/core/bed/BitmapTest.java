package fabbrica.core.bed;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.Random;
import org.junit.jupiter.api.Test;

class BitmapTest {

    @Test
    void the_first_free_place_is_the_one_found_by_looking_at_every_place_and_every_bit() {
        Random chance = new Random(11);
        for (int trial = 0; trial < 300; trial++) {
            Bitmap taken = runs(chance, 150 + chance.nextInt(150), 40, chance.nextInt(30));
            Bitmap shape = runs(chance, 1 + chance.nextInt(140), 1 + chance.nextInt(20), 1 + chance.nextInt(8));
            int y = chance.nextInt(20), last = taken.width() - 64 - shape.width();
            for (int from = 0; from <= last; from += 1 + chance.nextInt(9)) {
                int first = from;
                while (first <= last && overlaps(taken, shape, first, y)) {
                    first++;
                }
                assertThat(Math.min(last + 1, taken.firstFree(shape, from, y, last))).isEqualTo(first);
            }
        }
    }

    @Test
    void what_covers_nothing_lies_anywhere() {
        Bitmap taken = new Bitmap(128, 1);
        taken.setRun(0, 0, 128);

        assertThat(taken.firstFree(new Bitmap(10, 1), 3, 0, 50)).isEqualTo(3);
        assertThat(new Bitmap(128, 1).firstFree(taken, 3, 0, 2)).as("nothing is asked about").isGreaterThan(2);
    }

    private static Bitmap runs(Random chance, int width, int height, int howMany) {
        Bitmap map = new Bitmap(width, height);
        for (int i = 0; i < howMany; i++) {
            int from = chance.nextInt(width);
            map.setRun(chance.nextInt(height), from, from + 1 + chance.nextInt(90));
        }
        return map;
    }

    private static boolean overlaps(Bitmap taken, Bitmap shape, int x, int y) {
        for (int row = 0; row < shape.height(); row++) {
            for (int column = 0; column < shape.width(); column++) {
                if (shape.get(column, row) && taken.get(x + column, y + row)) {
                    return true;
                }
            }
        }
        return false;
    }
}
