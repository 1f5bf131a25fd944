package fabbrica.core.motion;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import fabbrica.core.mesh.model.Shapes;
import fabbrica.core.recipe.Adhesion;
import fabbrica.core.recipe.Board;
import fabbrica.core.recipe.BuiltIn;
import fabbrica.core.recipe.Cornering;
import fabbrica.core.recipe.InfillPattern;
import fabbrica.core.recipe.Kinematics;
import fabbrica.core.recipe.Pace;
import fabbrica.core.recipe.Printer;
import fabbrica.core.recipe.Recipe;
import fabbrica.core.toolpath.PathType;
import fabbrica.core.toolpath.Toolpath;
import fabbrica.core.units.Progress;
import java.util.Random;
import org.junit.jupiter.api.Test;

/** Against textbook kinematics of constant acceleration, and against an integrator that knows no formulas. */
class MotionTest {

    private static final Printer PRINTER = BuiltIn.printer("standard").orElseThrow();
    private static final Kinematics CLASSIC = new Kinematics(150, 500, 8, 10, 15, 1, 40);

    @Test
    void a_move_from_rest_to_rest_takes_the_time_of_a_trapezoid() {
        // 100 mm at 50 mm/s and 500 mm/s²: s / v + v / a = 2 + 0.1 s.
        assertThat(single(100, 50, 500)).isCloseTo(2.1, within(1e-12));
    }

    @Test
    void a_move_too_short_to_reach_its_speed_takes_the_time_of_a_triangle() {
        // 4 mm at 500 mm/s²: 2 · √(s / a).
        assertThat(single(4, 200, 500)).isCloseTo(2 * Math.sqrt(4 / 500.0), within(1e-12));
    }

    @Test
    void straight_pieces_of_one_line_take_the_time_of_the_whole() {
        MoveQueue queue = queue(new Cornering.AtSpeed(8));
        for (int i = 0; i < 50; i++) {
            queue.move(2, 0, 0, 50, 500, 0);
        }
        assertThat(seconds(queue)).isCloseTo(2.1, within(1e-9));
    }

    @Test
    void a_right_angled_corner_is_taken_at_the_corner_speed() {
        MoveQueue queue = queue(new Cornering.AtSpeed(8));
        queue.move(100, 0, 0, 50, 500, 0);
        queue.move(0, 100, 0, 50, 500, 0);
        double withCorner = 2 * MoveQueue.seconds(100, 0, 8, 50, 500);
        assertThat(seconds(queue)).isCloseTo(withCorner, within(1e-9));
    }

    @Test
    void turning_back_means_stopping() {
        MoveQueue queue = queue(new Cornering.AtSpeed(8));
        queue.move(100, 0, 0, 50, 500, 0);
        queue.move(-100, 0, 0, 50, 500, 0);
        assertThat(seconds(queue)).isCloseTo(2 * 2.1, within(1e-6));
    }

    @Test
    void random_paths_take_the_time_that_small_steps_add_up_to() {
        Random chance = new Random(3);
        for (int round = 0; round < 20; round++) {
            int moves = 2 + chance.nextInt(12);
            double[] length = new double[moves], speed = new double[moves], limit = new double[moves + 1];
            MoveQueue queue = queue(new Cornering.AtSpeed(6));
            double direction = 0;
            for (int i = 0; i < moves; i++) {
                double turn = (chance.nextDouble() - 0.5) * 2.4;
                direction += turn;
                length[i] = 0.3 + chance.nextDouble() * 20;
                speed[i] = 20 + chance.nextDouble() * 80;
                double half = Math.cos(turn / 2);
                double corner = 6 * Math.sqrt((Math.sqrt(2) - 1) * half / (1 - half));
                limit[i] = i == 0 ? 0 : Math.min(corner, Math.min(speed[i - 1], speed[i]));
                queue.move(length[i] * Math.cos(direction), length[i] * Math.sin(direction), 0, speed[i], 800, 0);
            }
            double expected = integrated(length, speed, limit, 800);
            assertThat(seconds(queue)).isCloseTo(expected, within(expected * 0.005));
        }
    }

    @Test
    void a_jerk_limit_holds_for_each_axis_by_itself() {
        // At a right angle each axis changes by the whole speed: 10 mm/s; at 45° the second axis by sin 45° of it.
        assertThat(seconds(corner(new Cornering.Jerk(10), 90))).isCloseTo(2 * MoveQueue.seconds(100, 0, 10, 50, 500), within(1e-9));
        assertThat(seconds(corner(new Cornering.Jerk(10), 45)))
                .isCloseTo(2 * MoveQueue.seconds(100, 0, 10 / Math.sin(Math.PI / 4), 50, 500), within(1e-9));
    }

    @Test
    void a_corner_that_may_stray_is_an_arc_of_its_radius() {
        // An arc that strays by d from a right angle has r = d / (√2 − 1); on it v² = a·r, textbook circular motion.
        double speed = Math.sqrt(500 * 0.05 / (Math.sqrt(2) - 1));
        assertThat(seconds(corner(new Cornering.Deviation(0.05), 90)))
                .isCloseTo(2 * MoveQueue.seconds(100, 0, speed, 50, 500), within(1e-9));
    }

    @Test
    void a_queue_too_long_to_wait_for_its_end_takes_the_same_time() {
        MoveQueue queue = queue(new Cornering.AtSpeed(8));
        for (int i = 0; i < 50_000; i++) {
            queue.move(0.2, 0, 0, 50, 500, 0);
        }
        // 10 m at 50 mm/s and 500 mm/s²: s / v + v / a.
        assertThat(seconds(queue)).isCloseTo(200.1, within(1e-6));
    }

    @Test
    void each_move_keeps_to_its_own_acceleration() {
        Random chance = new Random(8);
        for (int round = 0; round < 20; round++) {
            int moves = 2 + chance.nextInt(10);
            double[] length = new double[moves], speed = new double[moves], limit = new double[moves + 1];
            double[] acceleration = new double[moves];
            MoveQueue queue = queue(new Cornering.AtSpeed(200));
            for (int i = 0; i < moves; i++) {
                length[i] = 0.5 + chance.nextDouble() * 20;
                speed[i] = 20 + chance.nextDouble() * 80;
                acceleration[i] = 300 + chance.nextDouble() * 2000;
                limit[i] = i == 0 ? 0 : Math.min(speed[i - 1], speed[i]);
                queue.move(length[i], 0, 0, speed[i], acceleration[i], 0);
            }
            double expected = stepped(length, speed, limit, acceleration);
            assertThat(seconds(queue)).isCloseTo(expected, within(expected * 0.005));
        }
    }

    @Test
    void a_layer_too_quick_to_cool_is_slowed_down_to_its_least_time() {
        Recipe patient = recipe(80).with(recipe(80).pace().withMinimumLayer(8));
        Toolpath pin = Toolpath.of(Shapes.cylinder(5, 6, 40), patient, Progress.IGNORED);
        Motion motion = Motion.of(pin, patient, PRINTER.with(CLASSIC), Progress.IGNORED);
        assertThat(motion.layers().subList(5, 25)).allSatisfy(layer -> {
            assertThat(layer.seconds()).isCloseTo(8, within(0.1));
            assertThat(layer.slowedTo()).isLessThan(1);
        });
    }

    @Test
    void outer_walls_can_be_laid_more_gently_than_the_rest() {
        Recipe gentle = recipe(60).with(new Pace(36, 48, 30, 2000, 0.2, 0, 10));
        Recipe usual = recipe(60).with(recipe(60).pace().withMinimumLayer(0));
        Toolpath path = Toolpath.of(Shapes.box(10, 10, 5), usual, Progress.IGNORED);
        Motion calm = Motion.of(path, gentle, PRINTER.with(CLASSIC), Progress.IGNORED), plain = Motion.of(path, usual, PRINTER.with(CLASSIC), Progress.IGNORED);
        assertThat(calm.byType().get(PathType.OUTER_WALL).seconds()).isGreaterThan(plain.byType().get(PathType.OUTER_WALL).seconds() * 1.2);
        assertThat(calm.byType().get(PathType.INFILL)).isEqualTo(plain.byType().get(PathType.INFILL));
    }

    @Test
    void speed_saturates_where_acceleration_does_not_let_the_head_reach_it() {
        // Common practice, no source: small parts gain little beyond a point.
        double at60 = printSeconds(60, CLASSIC), at120 = printSeconds(120, CLASSIC), at240 = printSeconds(240, CLASSIC);
        assertThat(at120 / at60).isBetween(0.6, 0.9);
        assertThat(at240 / at120).isBetween(0.9, 1.0);
    }

    @Test
    void flow_saturates_once_speed_and_acceleration_limit() {
        // Common practice, no source: from 40 to 65 mm³/s nothing is gained.
        Kinematics fast = new Kinematics(300, 3000, 10, 10, 4, 1, 40);
        double at4 = printSeconds(200, fast), at24 = printSeconds(200, fast.withMaxFlow(24));
        double at40 = printSeconds(200, fast.withMaxFlow(40)), at65 = printSeconds(200, fast.withMaxFlow(65));
        assertThat(at24).isLessThan(at4 * 0.8);
        assertThat(at65).isCloseTo(at40, within(at40 * 1e-9));
    }

    @Test
    void every_second_and_every_bit_of_plastic_is_booked_to_what_it_was_for() {
        Toolpath path = Toolpath.of(Shapes.box(20, 20, 10), recipe(60), Progress.IGNORED);
        Motion motion = Motion.of(path, recipe(60), PRINTER.with(CLASSIC), Progress.IGNORED);
        assertThat(motion.byType()).containsOnlyKeys(PathType.OUTER_WALL, PathType.INNER_WALL, PathType.SOLID,
                PathType.INFILL);
        assertThat(motion.byType().get(PathType.OUTER_WALL).mm3())
                .isCloseTo(50 * 4 * (20 - recipe(60).lineSpacingMm(0.2)) * recipe(60).lineAreaMm2(0.2), within(1e-6));
        assertThat(motion.seconds()).isGreaterThan(path.lengthMm(PathType.OUTER_WALL) / 36);
    }

    @Test
    void short_moves_keep_within_the_stop_that_the_board_can_see() {
        // 16 moves of 0.1 mm at 500 mm/s²: v² = 2·a·s lets no move begin above 40 mm/s.
        MoveQueue queue = new MoveQueue(new Cornering.AtSpeed(8), 16, 1e9, 1);
        for (int i = 0; i < 10_000; i++) {
            queue.move(0.1, 0, 0, 100, 500, 0);
        }
        assertThat(seconds(queue)).isBetween(1000 / 41.0, 1000 / 39.0);
    }

    @Test
    void moves_come_no_faster_than_they_are_sent() {
        MoveQueue queue = new MoveQueue(new Cornering.AtSpeed(8), 1000, 200, 1);
        for (int i = 0; i < 1000; i++) {
            queue.move(0.1, 0, 0, 100, 50_000, 0);
        }
        assertThat(seconds(queue)).isCloseTo(1000 / 200.0, within(0.01));
    }

    @Test
    void random_paths_on_a_board_that_sees_little_take_the_time_that_small_steps_add_up_to() {
        Random chance = new Random(12);
        for (int round = 0; round < 20; round++) {
            int moves = 30, lookAhead = 1 + chance.nextInt(6);
            double[] length = new double[moves], speed = new double[moves], limit = new double[moves + 1];
            MoveQueue queue = new MoveQueue(new Cornering.AtSpeed(200), lookAhead, 50, 1);
            for (int i = 0; i < moves; i++) {
                length[i] = 0.3 + chance.nextDouble() * 3;
                double wanted = 20 + chance.nextDouble() * 80;
                speed[i] = Math.min(wanted, length[i] * 50);
                queue.move(length[i], 0, 0, wanted, 800, 0);
            }
            for (int i = 1; i < moves; i++) {
                double seen = 0;
                for (int j = i; j < Math.min(moves, i + lookAhead); j++) {
                    seen += length[j];
                }
                limit[i] = Math.min(Math.sqrt(2 * 800 * seen), Math.min(speed[i - 1], speed[i]));
            }
            double expected = integrated(length, speed, limit, 800);
            assertThat(seconds(queue)).isCloseTo(expected, within(expected * 0.005));
        }
    }

    @Test
    void each_axis_keeps_to_its_own_speed_and_acceleration() {
        Board slowY = Board.USUAL.withSpeeds(2000, 20, 120).withAccelerations(100_000, 200, 100, 3000);
        // 60 mm along y at 20 mm/s and 200 mm/s²: s / v + v / a; the way along x goes at 100 mm/s and 500 mm/s².
        assertThat(line(slowY, 0, 60)).isCloseTo(3.1, within(1e-9));
        assertThat(line(slowY, 60, 0)).isCloseTo(0.8, within(1e-9));
        // 3–4–5: y has 0.8 of the way, so that the head goes at 25 mm/s and 250 mm/s².
        assertThat(line(slowY, 36, 48)).isCloseTo(60 / 25.0 + 25 / 250.0, within(1e-9));
    }

    @Test
    void the_vertical_axis_and_the_filament_speed_up_and_slow_down() {
        MoveTimer timer = new MoveTimer(PRINTER.with(CLASSIC));
        timer.at(0, 0, 0);
        timer.lineTo(0, 0, 0.2, 0, 10, 500, PathType.TRAVEL);
        // 0.2 mm at 100 mm/s² never reach 10 mm/s: 2 · √(s / a).
        assertThat(timer.totalSeconds()).isCloseTo(2 * Math.sqrt(0.2 / 100), within(1e-9));
        timer.retract();
        // 1 mm at 40 mm/s and 3000 mm/s²: s / v + v / a.
        assertThat(timer.retractionS()).isCloseTo(1 / 40.0 + 40 / 3000.0, within(1e-9));
    }

    @Test
    void filament_fed_ahead_for_pressure_holds_the_head_back_only_where_the_feeder_is_at_its_limit() {
        Board feeder = Board.USUAL.withSpeeds(2000, 2000, 5).withAccelerations(100_000, 100_000, 100, 100_000);
        double plain = laid(feeder), corrected = laid(feeder.withPressure(0.1)), strong = laid(Board.USUAL.withPressure(0.001));
        assertThat(corrected).isGreaterThan(plain);
        assertThat(strong).isEqualTo(laid(Board.USUAL));
    }

    private static double laid(Board board) {
        MoveTimer timer = new MoveTimer(PRINTER.with(CLASSIC.with(board)));
        timer.at(0, 0, 0);
        timer.lineTo(20, 0, 0, 4, 50, 500, PathType.OUTER_WALL);
        timer.stop();
        return timer.totalSeconds();
    }

    private static double line(Board board, double x, double y) {
        MoveTimer timer = new MoveTimer(PRINTER.with(CLASSIC.with(board)));
        timer.at(0, 0, 0);
        timer.lineTo(x, y, 0, 0, 100, 500, PathType.TRAVEL);
        timer.stop();
        return timer.totalSeconds();
    }

    private static double printSeconds(double speed, Kinematics kinematics) {
        Recipe unhurried = recipe(speed).with(recipe(speed).pace().withMinimumLayer(0));
        Toolpath path = Toolpath.of(Shapes.cylinder(9, 12, 60), unhurried, Progress.IGNORED);
        return Motion.of(path, unhurried, PRINTER.with(kinematics), Progress.IGNORED).seconds();
    }

    private static Recipe recipe(double speed) {
        return new Recipe(0.2, 0.2, 0.4, 3, 4, 4, 0.15, InfillPattern.LINES, Adhesion.NONE, speed);
    }

    /** Of a board that knows all moves at once. */
    private static MoveQueue queue(Cornering cornering) {
        return new MoveQueue(cornering, Integer.MAX_VALUE, 1e9, 1);
    }

    private static MoveQueue corner(Cornering cornering, double turnDeg) {
        MoveQueue queue = queue(cornering);
        queue.move(100, 0, 0, 50, 500, 0);
        queue.move(100 * Math.cos(Math.toRadians(turnDeg)), 100 * Math.sin(Math.toRadians(turnDeg)), 0, 50, 500, 0);
        return queue;
    }

    /**
     * The fastest way along, found without formulas for trapezoids: forward and backward over places a thousandth of a
     * millimetre apart, each no faster than the one before allows.
     */
    private static double stepped(double[] length, double[] speed, double[] limit, double[] acceleration) {
        double step = 0.001;
        int places = 0;
        for (double l : length) {
            places += (int) Math.ceil(l / step);
        }
        double[] squared = new double[places + 1], steps = new double[places], a = new double[places];
        int at = 0;
        for (int move = 0; move < length.length; move++) {
            int count = (int) Math.ceil(length[move] / step);
            for (int i = 0; i < count; i++) {
                squared[at] = i == 0 ? limit[move] * limit[move] : speed[move] * speed[move];
                steps[at] = length[move] / count;
                a[at++] = acceleration[move];
            }
        }
        for (int i = 0; i < places; i++) {
            squared[i + 1] = Math.min(squared[i + 1], squared[i] + 2 * a[i] * steps[i]);
        }
        for (int i = places - 1; i >= 0; i--) {
            squared[i] = Math.min(squared[i], squared[i + 1] + 2 * a[i] * steps[i]);
        }
        double seconds = 0;
        for (int i = 0; i < places; i++) {
            seconds += 2 * steps[i] / (Math.sqrt(squared[i]) + Math.sqrt(squared[i + 1]));
        }
        return seconds;
    }

    private static double single(double length, double speed, double acceleration) {
        MoveQueue queue = queue(new Cornering.AtSpeed(8));
        queue.move(length, 0, 0, speed, acceleration, 0);
        return seconds(queue);
    }

    private static double seconds(MoveQueue queue) {
        queue.stop();
        return queue.seconds(0);
    }

    /**
     * Walks the whole way in steps of a thousandth of a millimetre: at each place the head may be no faster than the
     * move allows, than it could have become since any limit behind it, and than it can brake for any limit ahead.
     */
    private static double integrated(double[] length, double[] speed, double[] limit, double acceleration) {
        double step = 0.001, seconds = 0, start = 0;
        double[] ends = new double[length.length + 1];
        for (int i = 0; i < length.length; i++) {
            ends[i + 1] = ends[i] + length[i];
        }
        for (int move = 0; move < length.length; start = ends[++move]) {
            int steps = (int) Math.ceil(length[move] / step);
            for (int s = 0; s < steps; s++) {
                double at = start + (s + 0.5) * length[move] / steps;
                double squared = speed[move] * speed[move];
                for (int i = 0; i < limit.length; i++) {
                    squared = Math.min(squared, limit[i] * limit[i] + 2 * acceleration * Math.abs(at - ends[i]));
                }
                seconds += length[move] / steps / Math.sqrt(squared);
            }
        }
        return seconds;
    }
}
