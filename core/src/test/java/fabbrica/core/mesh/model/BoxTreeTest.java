package fabbrica.core.mesh.model;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.Random;
import java.util.Set;
import java.util.TreeSet;
import java.util.stream.IntStream;
import org.junit.jupiter.api.Test;

class BoxTreeTest {

    @Test
    void it_finds_exactly_the_boxes_that_touch() {
        Random chance = new Random(5);
        for (int size : new int[] {0, 1, 4, 5, 300}) {
            double[][] boxes = IntStream.range(0, size).mapToObj(i -> box(chance, 1)).toArray(double[][]::new);
            BoxTree tree = new BoxTree(boxes);
            for (int i = 0; i < 200; i++) {
                double[] wanted = box(chance, 3);
                Set<Integer> found = new TreeSet<>(), expected = new TreeSet<>();
                assertThat(tree.any(wanted, box -> !found.add(box))).as("each is met once").isFalse();
                for (int b = 0; b < size; b++) {
                    boolean apart = false;
                    for (int k = 0; k < 3; k++) {
                        apart |= boxes[b][k] > wanted[k + 3] || wanted[k] > boxes[b][k + 3];
                    }
                    if (!apart) {
                        expected.add(b);
                    }
                }
                assertThat(found).isEqualTo(expected);
            }
        }
    }

    @Test
    void the_search_ends_with_the_first_that_will_do() {
        double[][] same = IntStream.range(0, 50).mapToObj(i -> new double[] {0, 0, 0, 1, 1, 1}).toArray(double[][]::new);
        int[] asked = {0};
        assertThat(new BoxTree(same).any(same[0], box -> ++asked[0] == 3)).isTrue();
        assertThat(asked[0]).isEqualTo(3);
    }

    private static double[] box(Random chance, double size) {
        double[] box = new double[6];
        for (int k = 0; k < 3; k++) {
            box[k] = chance.nextInt(10);
            box[k + 3] = box[k] + size * chance.nextInt(3);
        }
        return box;
    }
}
