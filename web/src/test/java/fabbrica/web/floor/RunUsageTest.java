package fabbrica.web.floor;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import fabbrica.core.estimate.Calibration;
import fabbrica.core.estimate.Phase;
import fabbrica.core.estimate.Stage;
import fabbrica.core.mesh.model.Shapes;
import fabbrica.web.DemoLabTest;
import fabbrica.web.Steps;
import fabbrica.web.floor.RunEnd.Outcome;
import fabbrica.web.floor.Took.Source;
import fabbrica.web.plan.LaidPlate;
import fabbrica.web.plan.Plates;
import fabbrica.web.plan.Promise;
import fabbrica.web.stores.Lessons;
import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.springframework.beans.factory.annotation.Autowired;
import org.springframework.jdbc.core.JdbcTemplate;
import org.springframework.transaction.support.TransactionTemplate;

@DemoLabTest
class RunUsageTest {

    @Autowired
    private Lessons lessons;
    @Autowired
    private Runs runs;
    @Autowired
    private Plates plates;
    @Autowired
    private Steps steps;
    @Autowired
    private JdbcTemplate jdbc;
    @Autowired
    private TransactionTemplate transaction;

    private String printer;
    private long spool;

    @BeforeEach
    void stock() {
        printer = steps.printer();
        spool = steps.spool("pla", 900);
    }

    private LaidPlate queued() {
        return plates.plate(steps.queued(Shapes.box(20, 20, 8), 1, printer, spool));
    }

    /** Seconds of a run whose printing took so much longer than it was worked out. */
    private static double seconds(Promise promise, double printing) {
        Map<Phase, Double> raw = promise.raw().phases();
        return raw.entrySet().stream().mapToDouble(phase -> phase.getValue() * (phase.getKey().stage() == Stage.PRINTING ? printing : 1)).sum();
    }

    private void ended(Outcome outcome, double printing) {
        LaidPlate plate = queued();
        long run = steps.started(plate.id());
        Took took = new Took(seconds(plate.promise(), printing) / 60, Source.MEASURED, plate.promise().raw().grams() * 1.02, Source.MEASURED);
        runs.end(run, new RunEnd(took, steps.end(run, outcome, 1, 1, "").copies(), List.of(), "", "", null, null), "mira");
    }

    @Test
    void what_runs_took_is_promised_the_next_time_and_what_was_worked_out_is_kept_beside_it() {
        Promise before = queued().promise();
        for (int run = 0; run < 12; run++) {
            ended(Outcome.WELL, 1.3);
        }
        Calibration by = lessons.calibration(printer);
        assertThat(by.runs()).isEqualTo(12);
        LaidPlate plate = queued();
        Promise after = plate.promise();
        assertThat(after.raw()).isEqualTo(before.raw());
        assertThat(after.runs()).isEqualTo(12);
        assertThat(after.totalS()).isBetween(after.earliestS(), after.latestS()).isCloseTo(after.phases().values().stream().mapToDouble(Double::doubleValue).sum(), within(1e-6));
        assertThat(after.grams()).isBetween(after.leastG(), after.mostG());
        assertThat(after.totalS()).as("what other machines told of heating makes little difference").isCloseTo(seconds(after, 1.3), within(0.03 * after.totalS()));
        Run run = runs.run(steps.started(plate.id()));
        assertThat(run.promisedS()).isEqualTo(after.totalS());
        assertThat(run.rawS()).isEqualTo(before.raw().totalS());
        assertThat(run.taughtBy()).isEqualTo(12);
    }

    @Test
    void what_failed_or_nobody_measured_teaches_no_length() {
        ended(Outcome.FAILED, 1.4);
        ended(Outcome.CANCELLED, 0.4);
        runs.endWell(runs.run(steps.started(queued().id())), "mira");
        assertThat(lessons.calibration(printer).runs()).isZero();
        assertThat(lessons.calibration(printer).plastic().runs()).isZero();
    }

    @Test
    void a_machine_that_tells_where_its_time_went_teaches_each_stage_and_its_pauses_count_for_nothing() {
        LaidPlate plate = queued();
        Map<Phase, Double> raw = plate.promise().raw().phases();
        double heating = raw.entrySet().stream().filter(phase -> phase.getKey().stage() == Stage.HEATING).mapToDouble(Map.Entry::getValue).sum();
        double readying = raw.entrySet().stream().filter(phase -> phase.getKey().stage() == Stage.READYING).mapToDouble(Map.Entry::getValue).sum();
        long run = steps.started(plate.id());
        transaction.executeWithoutResult(status -> jdbc.update("""
                update machine_file set layers = 40, layer = 40, filament_mm = 900, over_at = 0, whole = 1, seconds = ?, heating_s = ?, readying_s = ?, paused_s = 7200 where run_id = ?""",
                plate.promise().raw().totalS() + heating + 7200, 2 * heating, readying, run));
        runs.endWell(runs.run(run), "mira");
        assertThat(runs.run(run).minutesFrom()).isEqualTo(Source.MACHINE);
        Calibration by = lessons.calibration(printer);
        assertThat(by.of(Stage.HEATING).runs()).isOne();
        assertThat(by.of(Stage.HEATING).usual()).as("twice as long, once").isGreaterThan(1.1);
        assertThat(by.of(Stage.PRINTING).runs()).isOne();
        assertThat(by.of(Stage.PRINTING).usual()).as("two hours of pause are no hour of printing").isLessThan(1.4);
    }

    @Test
    void a_run_that_its_machine_cut_short_teaches_how_long_it_heats_and_nothing_else() {
        LaidPlate plate = queued();
        long run = steps.started(plate.id());
        transaction.executeWithoutResult(status -> jdbc.update("""
                update machine_file set layers = 40, layer = 5, filament_mm = 90, over_at = 0, whole = 0, seconds = 600, heating_s = 200, readying_s = 120, paused_s = 0 where run_id = ?""", run));
        Took took = runs.took(runs.run(run));
        runs.end(run, new RunEnd(took, steps.end(run, Outcome.FAILED, 1, 1, "").copies(), List.of(), "came off", "", null, null), "mira");
        Calibration by = lessons.calibration(printer);
        assertThat(by.of(Stage.HEATING).runs()).isOne();
        assertThat(by.of(Stage.READYING).runs()).isOne();
        assertThat(by.runs()).isZero();
        assertThat(by.plastic().runs()).isZero();
    }
}
