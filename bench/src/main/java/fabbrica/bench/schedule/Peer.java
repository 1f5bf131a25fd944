package fabbrica.bench.schedule;

import ai.timefold.solver.core.api.domain.common.PlanningId;
import ai.timefold.solver.core.api.domain.entity.PlanningEntity;
import ai.timefold.solver.core.api.domain.solution.PlanningEntityCollectionProperty;
import ai.timefold.solver.core.api.domain.solution.PlanningScore;
import ai.timefold.solver.core.api.domain.solution.PlanningSolution;
import ai.timefold.solver.core.api.domain.solution.ProblemFactCollectionProperty;
import ai.timefold.solver.core.api.domain.valuerange.ValueRangeProvider;
import ai.timefold.solver.core.api.domain.variable.PlanningListVariable;
import ai.timefold.solver.core.api.score.SimpleScore;
import ai.timefold.solver.core.api.score.calculator.IncrementalScoreCalculator;
import ai.timefold.solver.core.api.solver.SolverFactory;
import ai.timefold.solver.core.config.score.director.ScoreDirectorFactoryConfig;
import ai.timefold.solver.core.config.solver.SolverConfig;
import ai.timefold.solver.core.config.solver.termination.TerminationConfig;
import fabbrica.core.schedule.FloorView;
import fabbrica.core.schedule.Timing;
import java.time.Duration;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.stream.IntStream;
import org.jspecify.annotations.NullUnmarked;

/**
 * The same floors for a general planning solver with its usual search: each machine has a list of plates, and what a list costs
 * is worked out by the same {@link Timing}, only for machines whose list has changed. One thread: more are not free.
 */
@NullUnmarked
final class Peer {

    private Peer() {
    }

    static long objective(FloorView floor, Duration budget, long seed) {
        SolverConfig config = new SolverConfig().withSolutionClass(Plan.class).withEntityClasses(Line.class).withRandomSeed(seed)
                .withTerminationConfig(new TerminationConfig().withSpentLimit(budget));
        config.setScoreDirectorFactoryConfig(new ScoreDirectorFactoryConfig().withIncrementalScoreCalculatorClass(Cost.class));
        Plan plan = new Plan();
        plan.floor = floor;
        plan.plates = IntStream.range(0, floor.waiting().size()).mapToObj(Plate::new).toList();
        plan.lines = IntStream.range(0, floor.machines().size()).mapToObj(Line::new).toList();
        return -SolverFactory.<Plan>create(config).buildSolver().solve(plan).score.score();
    }

    /** A plate to be placed. */
    public static final class Plate {

        @PlanningId
        public int number;

        public Plate() {
        }

        Plate(int number) {
            this.number = number;
        }
    }

    /** A machine and what it prints. */
    @PlanningEntity
    public static final class Line {

        @PlanningId
        public int number;

        @PlanningListVariable
        public List<Plate> plates = new ArrayList<>();

        public Line() {
        }

        Line(int number) {
            this.number = number;
        }
    }

    /** All machines. */
    @PlanningSolution
    public static final class Plan {

        public FloorView floor;

        @PlanningEntityCollectionProperty
        public List<Line> lines;

        @ProblemFactCollectionProperty
        @ValueRangeProvider
        public List<Plate> plates;

        @PlanningScore
        public SimpleScore score;
    }

    /** What the lists cost. */
    public static final class Cost implements IncrementalScoreCalculator<Plan, SimpleScore> {

        private Plan plan;
        private Timing timing;
        private long[] costs;
        private boolean[] stale;
        private int[] option;
        private int[] sequence;

        @Override
        public void resetWorkingSolution(Plan working) {
            plan = working;
            timing = new Timing(working.floor);
            costs = new long[working.lines.size()];
            stale = new boolean[costs.length];
            Arrays.fill(stale, true);
            option = new int[working.plates.size()];
            sequence = new int[option.length];
        }

        @Override
        public void beforeVariableChanged(Object entity, String variable) {
        }

        @Override
        public void afterVariableChanged(Object entity, String variable) {
        }

        @Override
        public void afterListVariableChanged(Object entity, String variable, int from, int to) {
            stale[((Line) entity).number] = true;
        }

        @Override
        public SimpleScore calculateScore() {
            for (Line line : plan.lines) {
                if (stale[line.number]) {
                    costs[line.number] = cost(line);
                    stale[line.number] = false;
                }
            }
            return SimpleScore.of(-Arrays.stream(costs).sum());
        }

        private long cost(Line line) {
            int count = 0, impossible = 0;
            for (Plate plate : line.plates) {
                int o = timing.optionOn(plate.number, line.number);
                if (o < 0) {
                    impossible++;
                } else {
                    option[plate.number] = o;
                    sequence[count++] = plate.number;
                }
            }
            return timing.lay(line.number, sequence, 0, count, option, Long.MAX_VALUE) + impossible * timing.leftOut();
        }
    }
}
