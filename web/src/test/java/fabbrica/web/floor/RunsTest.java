package fabbrica.web.floor;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.assertj.core.api.Assertions.tuple;
import static org.assertj.core.api.Assertions.within;

import fabbrica.core.judge.UsedBy;
import fabbrica.core.mesh.model.Shapes;
import fabbrica.core.recipe.Nozzle;
import fabbrica.core.recipe.Plate.Sequence;
import fabbrica.core.recipe.StartingPoint;
import fabbrica.core.run.Defect;
import fabbrica.core.run.Sign;
import fabbrica.core.units.Money;
import fabbrica.web.DemoLabTest;
import fabbrica.web.Steps;
import fabbrica.web.floor.RunEnd.CopyEnd;
import fabbrica.web.floor.RunEnd.Outcome;
import fabbrica.web.floor.Took.Source;
import fabbrica.web.plan.Forecasts;
import fabbrica.web.plan.LaidPlate;
import fabbrica.web.plan.LaidPlate.LaidCopy;
import fabbrica.web.plan.PlanEntry;
import fabbrica.web.plan.Plates;
import fabbrica.web.platform.Outdated;
import fabbrica.web.platform.Refusal;
import fabbrica.web.stores.Condition;
import fabbrica.web.stores.Inventory;
import fabbrica.web.stores.Movement;
import fabbrica.web.stores.SpoolEntry;
import fabbrica.web.stores.Spools;
import fabbrica.web.stores.StockPrinter;
import fabbrica.web.ticket.TicketState;
import fabbrica.web.ticket.Tickets;
import java.util.List;
import java.util.stream.LongStream;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.springframework.beans.factory.annotation.Autowired;
import org.springframework.jdbc.core.JdbcTemplate;
import org.springframework.transaction.support.TransactionTemplate;

@DemoLabTest
class RunsTest {

    @Autowired
    private Runs runs;
    @Autowired
    private Plates plates;
    @Autowired
    private Forecasts forecasts;
    @Autowired
    private Tickets tickets;
    @Autowired
    private Steps steps;
    @Autowired
    private Inventory inventory;
    @Autowired
    private Spools spools;
    @Autowired
    private JdbcTemplate jdbc;
    @Autowired
    private TransactionTemplate transaction;

    private String printer;
    private long spool;

    /** A printer and a spool of its own, so that tests do not wait for each other's runs. */
    @BeforeEach
    void stock() {
        printer = steps.printer();
        spool = steps.spool("pla", 500);
    }

    @Test
    void a_run_keeps_the_nozzle_and_the_spool_is_in_the_printer() {
        long nozzle = inventory.printer(printer).orElseThrow().nozzleId();
        steps.end(steps.started(queued(1)), Outcome.WELL, 90, 4);
        assertThat(inventory.nozzleHours().get(nozzle)).isEqualTo(1.5);
        assertThat(spools.spool(spool).orElseThrow().loadedIn()).isEqualTo(printer);
    }

    @Test
    void the_spool_goes_down_by_the_grams_used_and_by_failed_prints_too() {
        long failed = steps.started(queued(1));
        steps.end(failed, Outcome.FAILED, 10, 1.5);
        long good = steps.started(runs.again(runs.run(failed), "mira"));
        steps.end(good, Outcome.WELL, 30, 4);
        assertThat(remaining()).isCloseTo(494.5, within(1e-9));
        assertThat(List.of(failed, good)).extracting(run -> runs.run(run).cost()).extracting(Object::toString).containsExactly("0.05 EUR", "0.12 EUR");
    }

    @Test
    void what_failed_is_printed_again_by_the_same_plan() {
        long first = queued(1), ticket = steps.ticketOf(first), run = steps.started(first);
        runs.end(run, new RunEnd(weighed(10, 1.5), steps.end(run, Outcome.FAILED, 10, 1.5, "").copies(), List.of(Sign.of(Defect.STRINGS)), "", "", null, null), "mira");
        assertThat(tickets.ticket(ticket).state()).isEqualTo(TicketState.FAILED);
        long second = runs.again(runs.run(run), "mira");
        assertThat(plates.plate(second).plan()).isEqualTo(plates.plate(first).plan());
        steps.started(second);
        assertThat(runs.ofTickets(List.of(ticket))).extracting(Run::state).containsExactly(Run.State.FAILED, Run.State.RUNNING);
        assertThat(runs.ofTickets(List.of(ticket)).getFirst().defects()).containsExactly(Defect.STRINGS);
        assertThatThrownBy(() -> runs.again(runs.run(run), "mira")).isInstanceOf(Refusal.class).hasMessageContaining("another plate already");
    }

    @Test
    void a_part_that_fits_only_across_the_bed_is_laid_again_as_it_lay() {
        long first = steps.queued(Shapes.box(255, 12, 4), 1, printer, spool), run = steps.started(first);
        steps.end(run, Outcome.FAILED, 10, 1.5);
        assertThat(plates.plate(runs.again(runs.run(run), "mira")).plate()).isEqualTo(plates.plate(first).plate());
    }

    @Test
    void of_a_plate_each_copy_ends_as_it_ended_and_only_the_bad_ones_are_laid_again() {
        long plate = queued(3), ticket = steps.ticketOf(plate), run = steps.started(plate);
        List<LaidCopy> copies = plates.plate(plate).copies();
        runs.end(run, new RunEnd(weighed(60, 13), List.of(new CopyEnd(copies.get(0).id(), Outcome.WELL, "", null),
                new CopyEnd(copies.get(1).id(), Outcome.FAILED, "came off", null), new CopyEnd(copies.get(2).id(), Outcome.USABLE, "a scar", null)),
                List.of(), "", "", null, null), "mira");
        assertThat(tickets.ticket(ticket).state()).isEqualTo(TicketState.FAILED);
        assertThat(plates.copies(ticket)).extracting("wanted", "well", "failed").containsExactly(3, 2, 1);
        LaidPlate again = plates.plate(runs.again(runs.run(run), "mira"));
        assertThat(again.copies()).hasSize(1);
        steps.end(steps.started(again.id()), Outcome.WELL, 30, 4);
        assertThat(tickets.ticket(ticket).state()).isEqualTo(TicketState.PRINTED);
    }

    @Test
    void the_shares_of_several_tickets_come_to_the_run_to_the_last_milligram_second_and_coin() {
        long small = steps.accepted(Shapes.box(10, 10, 8), 2), large = steps.accepted(Shapes.box(30, 20, 8), 1);
        long plate = together(small, large), run = steps.started(plate);
        steps.end(run, Outcome.WELL, 47.35, 9.877);
        List<RunCopy> shares = runs.copies(List.of(run));
        assertThat(shares).hasSize(3);
        assertThat(shares.stream().mapToLong(share -> Math.round(share.grams() * 1000)).sum()).isEqualTo(9877);
        assertThat(shares.stream().mapToLong(RunCopy::seconds).sum()).isEqualTo(Math.round(47.35 * 60));
        assertThat(shares.stream().map(RunCopy::cost).reduce(Money::plus)).contains(runs.run(run).cost());
        double each = shares.stream().filter(share -> share.ticketId() == small).mapToDouble(RunCopy::grams).max().orElseThrow();
        assertThat(shares.stream().filter(share -> share.ticketId() == large).mapToDouble(RunCopy::grams).sum()).as("six times the volume, the skirt shared")
                .isGreaterThan(3 * each);
        assertThat(List.of(small, large)).extracting(id -> tickets.ticket(id).state()).containsOnly(TicketState.PRINTED);
    }

    /** Its machine has not told what it pushed. */
    @Test
    void of_a_run_that_broke_off_the_promise_counts_as_far_as_its_layers_went() {
        long run = steps.started(queued(1));
        transaction.executeWithoutResult(status -> jdbc.update("""
                update machine_file set layers = 20, layer = 5, over_at = 0, whole = 0, seconds = 600 where run_id = ?""", run));
        assertThat(runs.took(runs.run(run)).grams()).isCloseTo(runs.run(run).promisedG() / 4, within(1e-9));
        transaction.executeWithoutResult(status -> jdbc.update("update machine_file set layer = 0 where run_id = ?", run));
        assertThat(runs.took(runs.run(run)).grams()).isZero();
        transaction.executeWithoutResult(status -> jdbc.update("update machine_file set whole = 1 where run_id = ?", run));
        assertThat(runs.took(runs.run(run)).grams()).isEqualTo(runs.run(run).promisedG());
    }

    @Test
    void what_was_weighed_is_a_copys_own_and_cannot_be_more_than_the_run_took() {
        long run = steps.started(queued(2));
        List<LaidCopy> copies = plates.plate(runs.run(run).plateId()).copies();
        assertThatThrownBy(() -> runs.end(run, weighed(copies, 9), "mira")).isInstanceOf(Refusal.class).hasMessageContaining("more than the run");
        assertThat(remaining()).isEqualTo(500);
        runs.end(run, weighed(copies, 3), "mira");
        assertThat(runs.copies(List.of(run))).extracting(RunCopy::grams).containsExactly(3.0, 5.0);
    }

    private static RunEnd weighed(List<LaidCopy> copies, double grams) {
        return new RunEnd(weighed(30, 8), List.of(new CopyEnd(copies.get(0).id(), Outcome.FAILED, "", grams), new CopyEnd(copies.get(1).id(), Outcome.WELL, "", null)),
                List.of(), "test", "", null, null);
    }

    @Test
    void an_outcome_written_down_wrongly_is_put_right_with_a_reason_and_the_history_keeps_both() {
        long plate = queued(1), ticket = steps.ticketOf(plate), run = steps.started(plate);
        steps.end(run, Outcome.WELL, 30, 4);
        Run seen = runs.run(run);
        RunEnd right = steps.end(run, Outcome.FAILED, 30, 5.5, "came off the bed");
        assertThatThrownBy(() -> runs.correct(seen, right, " ", "mira")).hasMessageContaining("Say why");
        runs.correct(seen, right, "looked again", "tomas");
        assertThat(tickets.ticket(ticket).state()).isEqualTo(TicketState.FAILED);
        assertThat(remaining()).isCloseTo(494.5, within(1e-9));
        assertThat(spools.movements(spool, 10)).extracting(Movement::kind).contains(Movement.Kind.CORRECTED);
        assertThat(tickets.history(ticket)).extracting("what", "why").contains(tuple("run done", "test"),
                tuple("run failed", "came off the bed"));
        assertThatThrownBy(() -> runs.correct(seen, right, "again", "mira")).isInstanceOf(Outdated.class);
    }

    @Test
    void a_copy_that_was_laid_again_and_came_out_well_after_all_is_told_to_be_too_many() {
        long plate = queued(1), ticket = steps.ticketOf(plate), run = steps.started(plate);
        steps.end(run, Outcome.FAILED, 30, 4);
        long again = runs.again(runs.run(run), "mira");
        assertThat(plates.copies(ticket).surplus()).isZero();
        runs.correct(runs.run(run), steps.end(run, Outcome.USABLE, 30, 4, "looked again"), "it holds", "mira");
        assertThat(plates.copies(ticket).surplus()).isEqualTo(1);
        plates.putBack(plates.plate(again), "not needed", "mira");
        plates.dissolve(plates.plate(again), "mira");
        assertThat(plates.copies(ticket).surplus()).isZero();
    }

    @Test
    void an_outcome_is_not_corrected_once_the_part_was_handed_out() {
        long plate = queued(1), ticket = steps.ticketOf(plate), run = steps.started(plate);
        steps.end(run, Outcome.WELL, 30, 4);
        tickets.handOut(tickets.ticket(ticket), "mira");
        RunEnd failed = steps.end(run, Outcome.FAILED, 30, 4, "oh");
        assertThatThrownBy(() -> runs.correct(runs.run(run), failed, "looked again", "mira")).hasMessageContaining("was handed out");
        assertThat(tickets.ticket(ticket).state()).isEqualTo(TicketState.HANDED_OUT);
    }

    @Test
    void what_is_asked_for_twice_happens_once() {
        long plate = queued(1), run = steps.started(plate);
        assertThatThrownBy(() -> steps.started(plate)).isInstanceOf(Refusal.class).hasMessageContaining("started already");
        steps.end(run, Outcome.WELL, 30, 4);
        assertThatThrownBy(() -> steps.end(run, Outcome.WELL, 30, 4)).hasMessage("This run has already been marked as ended.");
        assertThat(remaining()).isCloseTo(496, within(1e-9));
    }

    @Test
    void one_printer_prints_one_run_at_a_time_and_the_forecast_says_when_the_next_can_start() {
        long first = queued(1), second = queued(1);
        Run running = runs.run(steps.started(first));
        assertThatThrownBy(() -> steps.started(second)).hasMessageContaining("still busy");
        assertThat(forecasts.floor().of(plates.plate(second)).orElseThrow().start()).isAfterOrEqualTo(running.promisedEnd());
    }

    @Test
    void one_spool_feeds_one_run_at_a_time() {
        steps.started(queued(1));
        long other = steps.queued(Shapes.box(20, 20, 8), 1, steps.printer(), spool);
        assertThatThrownBy(() -> steps.started(other)).hasMessageContaining("feeds another run");
        assertThat(tickets.ticket(steps.ticketOf(other)).state()).isEqualTo(TicketState.QUEUED);
    }

    @Test
    void a_spool_taken_off_the_shelf_stops_the_start_and_loses_nothing() {
        long plate = queued(1);
        spools.change(spools.spool(spool).orElseThrow(), new SpoolEntry(null, "pla", "test white", "", 500, null, 1.75, "", 30, null, null, true), 500,
                "", "mira");
        assertThatThrownBy(() -> steps.started(plate)).hasMessageContaining("no longer on the shelf");
        assertThat(plates.plate(plate).state()).isEqualTo(LaidPlate.State.QUEUED);
        assertThat(runs.ofTickets(List.of(steps.ticketOf(plate)))).isEmpty();
    }

    @Test
    void a_printer_put_out_of_order_or_with_another_nozzle_since_does_not_start() {
        long plate = queued(1);
        StockPrinter stock = inventory.printer(printer).orElseThrow();
        long thick = inventory.add(new Nozzle(0.8, false), "", "test", 0, "mira");
        change(new StockPrinter(stock.printer().with(new Nozzle(0.8, false)), thick, "", "", UsedBy.TRAINED, false, Condition.READY, stock.cost(), 0,
                stock.narrowestGapMm(), stock.longestBridgeMm(), false));
        assertThatThrownBy(() -> steps.started(plate)).isInstanceOf(Refusal.class).hasMessageContaining("0.8 mm");
        change(stock);
        change(stock.with(Condition.down("fan rattles", null)));
        assertThatThrownBy(() -> steps.started(plate)).hasMessageContaining("out of order");
        change(stock);
        assertThat(runs.run(steps.started(plate)).state()).isEqualTo(Run.State.RUNNING);
    }

    private void change(StockPrinter to) {
        inventory.change(inventory.printer(printer).orElseThrow(), to, "mira");
    }

    private long queued(int quantity) {
        return steps.queued(Shapes.box(20, 20, 8), quantity, printer, spool);
    }

    private long together(long... ids) {
        List<Long> made = plates.draft(LongStream.of(ids).mapToObj(tickets::ticket).toList(),
                new PlanEntry(StartingPoint.DAILY_BREAD, steps.everyday(), printer, spool, false), Sequence.TOGETHER, "mira");
        assertThat(made).hasSize(1);
        plates.enqueue(plates.plate(made.getFirst()), "mira");
        return made.getFirst();
    }

    private double remaining() {
        return spools.spool(spool).orElseThrow().spool().remainingG();
    }

    private static Took weighed(double minutes, double grams) {
        return new Took(minutes, Source.ESTIMATE, grams, Source.MEASURED);
    }
}
