package fabbrica.core.units;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.Random;
import java.util.stream.LongStream;
import org.junit.jupiter.api.Test;

class ApportionTest {

    @Test
    void the_worked_example_of_the_largest_remainder_method_comes_out() {
        // Ten seats for 47,000, 16,000, 15,800, 12,000, 6,100 and 3,100 votes by Hamilton's method: value from memory.
        assertThat(Apportion.of(10, 47_000, 16_000, 15_800, 12_000, 6_100, 3_100)).containsExactly(5, 2, 1, 1, 1, 0);
    }

    @Test
    void cents_of_three_equal_shares_are_not_lost() {
        assertThat(Apportion.of(100, 1, 1, 1)).containsExactly(34, 33, 33);
        assertThat(Apportion.of(-100, 1, 1, 1)).containsExactly(-34, -33, -33);
        assertThat(Apportion.of(5, 0, 0)).containsExactly(3, 2);
    }

    @Test
    void whatever_is_shared_adds_up_and_nobody_is_off_by_one_or_more() {
        Random chance = new Random(5);
        for (int round = 0; round < 500; round++) {
            double[] weights = chance.doubles(1 + chance.nextInt(20)).toArray();
            long whole = chance.nextInt(100_000);
            long[] shares = Apportion.of(whole, weights);
            double sum = java.util.Arrays.stream(weights).sum();
            assertThat(LongStream.of(shares).sum()).isEqualTo(whole);
            for (int i = 0; i < shares.length; i++) {
                assertThat(Math.abs(shares[i] - whole * weights[i] / sum)).isLessThan(1);
            }
        }
    }
}
