package fabbrica.web.machine;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.assertj.core.api.Assertions.within;

import fabbrica.core.estimate.Calibration;
import fabbrica.core.mesh.model.Shapes;
import fabbrica.core.recipe.Printer;
import fabbrica.core.run.Command;
import fabbrica.core.run.MachineState.Kind;
import fabbrica.core.run.Trouble;
import fabbrica.printsim.Fault;
import fabbrica.web.DemoLabTest;
import fabbrica.web.Steps;
import fabbrica.web.floor.Run;
import fabbrica.web.floor.RunEnd.Outcome;
import fabbrica.web.floor.Runs;
import fabbrica.web.plan.LaidPlate;
import fabbrica.web.plan.PlateFiles;
import fabbrica.web.plan.Plates;
import fabbrica.web.platform.ClockJumps;
import fabbrica.web.platform.Refusal;
import fabbrica.web.platform.events.Event;
import fabbrica.web.platform.events.Events;
import fabbrica.web.platform.events.Fact;
import fabbrica.web.stores.Inventory;
import fabbrica.web.stores.Spools;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Clock;
import java.time.Duration;
import java.util.List;
import java.util.Optional;
import java.util.stream.IntStream;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.springframework.beans.factory.annotation.Autowired;

@DemoLabTest
class MachinesTest {

    @Autowired
    private Machines machines;
    @Autowired
    private MachineBook book;
    @Autowired
    private Runs runs;
    @Autowired
    private Plates plates;
    @Autowired
    private PlateFiles files;
    @Autowired
    private Events events;
    @Autowired
    private Inventory inventory;
    @Autowired
    private Spools spools;
    @Autowired
    private ClockJumps jumps;
    @Autowired
    private Steps steps;
    @TempDir
    private Path card;

    private String printer;
    private long spool;
    private SimulatedMachine machine;

    @BeforeEach
    void connect() {
        printer = steps.printer();
        spool = steps.spool("pla", 500);
        machine = new SimulatedMachine(figures(), card);
        machines.connect(machine.address(), "mira");
        reached();
    }

    @AfterEach
    void disconnect() {
        machine.close();
        Until.true_("it is gone", () -> shown().kind() == Kind.OUT_OF_REACH);
        machines.disconnect(printer, "mira");
    }

    private Printer figures() {
        return inventory.printer(printer).orElseThrow().printer();
    }

    private void reached() {
        Until.true_("it answers", () -> machines.of(printer).orElseThrow().kind() == Kind.IDLE);
    }

    private Watched shown() {
        return machines.of(printer).orElseThrow();
    }

    private LaidPlate queued() {
        return plates.plate(steps.queued(Shapes.box(20, 20, 4), 1, printer, spool));
    }

    private LaidPlate loaded() {
        LaidPlate plate = queued();
        load(plate);
        return plate;
    }

    private void load(LaidPlate plate) {
        try {
            machines.load(printer, plate.id(), files.mark(plate), files.of(plate).content());
        } catch (IOException e) {
            throw new IllegalStateException(e);
        }
        Until.true_("its file is on it", () -> readied(plate).file().isPresent());
    }

    private Machines.Readied readied(LaidPlate plate) {
        return machines.readied(printer, plate.id(), files.mark(plate));
    }

    private Run begun(LaidPlate plate) {
        runs.start(plate, "mira");
        return Until.there("the run has begun", () -> runs.running().stream().filter(run -> run.plateId() == plate.id()).findFirst());
    }

    private void over(Run run) {
        Until.true_("the machine is done", () -> book.ofRun(run.id()).orElseThrow().over() != null && !shown().isAtWork());
    }

    private List<Fact> told(LaidPlate plate) {
        return events.ofTicket(plate.tickets().getFirst()).stream().map(Event::fact).toList();
    }

    @Test
    void a_plate_is_begun_by_its_machine_followed_to_its_end_and_booked_by_what_the_machine_told() {
        LaidPlate plate = loaded();
        assertThat(readied(plate).file().orElseThrow().checked()).isTrue();
        assertThat(plates.plate(plate.id()).waits()).isTrue();
        Run run = begun(plate);
        over(run);
        MachineFile file = book.ofRun(run.id()).orElseThrow();
        assertThat(file.over().whole()).isTrue();
        assertThat(file.layer()).isEqualTo(20);
        assertThat(file.over().seconds()).isCloseTo(run.rawS(), within(0.15 * run.rawS()));
        assertThat(runs.run(run.id()).isOverdue(file.over().at())).isTrue();
        assertThat(machines.brokeOff(printer, run.id())).isFalse();
        Until.true_("it has said so", () -> machines.isOver(printer, run.id()));
        runs.endWell(runs.run(run.id()), "mira");
        Run ended = runs.run(run.id());
        assertThat(ended.realMinutes()).isCloseTo(file.over().seconds() / 60, within(0.06));
        assertThat(ended.realG()).isCloseTo(run.rawG(), within(0.02 * run.rawG()));
        assertThat(spools.spool(spool).orElseThrow().spool().remainingG()).isCloseTo(500 - ended.realG(), within(0.01));
        Until.true_("its file is taken off", () -> machine.files().isEmpty());
        assertThat(told(plate)).contains(new Fact.FileSent(true), new Fact.RunStarted(), new Fact.MachineDone(true, 20, 20));
        reached();
    }

    @Test
    void what_nobody_has_confirmed_is_not_begun_whoever_comes_back() {
        LaidPlate plate = loaded();
        machine.becomes("uuid-of-" + printer);
        Until.true_("it was out of reach", () -> shown().since().isAfter(plate.madeAt()) && shown().kind() == Kind.IDLE);
        machines.start();
        reached();
        assertThat(runs.running()).noneMatch(run -> run.plateId() == plate.id());
        assertThat(plates.plate(plate.id()).waits()).isTrue();
        assertThat(book.open(printer)).singleElement().matches(file -> file.orderedAt() == null && file.runId() == null);
    }

    @Test
    void the_next_plate_does_not_begin_before_the_one_before_was_cleared() {
        Run run = begun(loaded());
        over(run);
        Until.true_("it waits", () -> shown().isToBeSaid());
        LaidPlate next = queued();
        assertThatThrownBy(() -> machines.load(printer, next.id(), files.mark(next), files.of(next).content())).isInstanceOf(Refusal.class)
                .hasMessageContaining("still to be cleared");
        assertThatThrownBy(() -> runs.start(next, "mira")).isInstanceOf(Refusal.class);
        steps.end(run.id(), Outcome.WELL, 12, 3);
        reached();
        load(next);
        begun(next);
    }

    /** Two alarms have room on a page; a network that is down must not bury what people are at. */
    @Test
    void of_many_machines_in_trouble_two_are_shown_and_the_others_named() {
        List<String> others = IntStream.range(0, 3).mapToObj(i -> steps.printer()).toList();
        others.forEach(other -> machines.connect(new MachineAddress(other, "127.0.0.1", machine.address().port(), null, "", ""), "mira"));
        Until.true_("all of them find the line busy", () -> machines.alarms().size() >= 3);
        assertThat(machines.firstAlarms()).hasSize(2);
        assertThat(machines.otherAlarms()).hasSize(machines.alarms().size() - 2);
        others.forEach(other -> machines.disconnect(other, "mira"));
    }

    @Test
    void a_part_that_comes_off_is_seen_with_its_layer_and_the_run_is_ended_there() {
        machine.whenLayer(7, Fault.OFF_BED);
        Run run = begun(loaded());
        Machines.Alarm alarm = Until.there("the alarm", () -> machines.alarms().stream().filter(one -> one.machine().printerId().equals(printer)).findFirst());
        assertThat(alarm.trouble()).isEqualTo(Trouble.OFF_BED);
        assertThat(alarm.machine().layer()).isEqualTo(7);
        assertThatThrownBy(() -> steps.end(run.id(), Outcome.FAILED, 5, 1)).isInstanceOf(Refusal.class).hasMessageContaining("still at it");
        machines.tell(printer, new Command.Cancel());
        over(run);
        MachineFile file = book.ofRun(run.id()).orElseThrow();
        assertThat(file.over().whole()).isFalse();
        assertThat(file.layer()).isEqualTo(7);
        assertThat(file.filamentMm()).isPositive();
        assertThatThrownBy(() -> runs.endWell(runs.run(run.id()), "mira")).isInstanceOf(Refusal.class).hasMessageContaining("broke off");
        assertThat(machines.brokeOff(printer, run.id())).isTrue();
        steps.end(run.id(), Outcome.FAILED, 5, 1);
        reached();
        assertThat(machines.alarms()).noneMatch(one -> one.machine().printerId().equals(printer));
    }

    @Test
    void after_a_power_cut_the_run_is_accounted_for_with_what_was_known_last() {
        machine.whenLayer(9, Fault.POWER_CUT);
        Run run = begun(loaded());
        over(run);
        MachineFile file = book.ofRun(run.id()).orElseThrow();
        assertThat(file.over().whole()).isFalse();
        assertThat(file.layer()).isBetween(1, 9);
        Until.true_("it is said", () -> shown().trouble() == Trouble.CUT_SHORT);
        assertThat(runs.running()).filteredOn(one -> one.printerId().equals(printer)).hasSize(1);
    }

    @Test
    void a_machine_that_says_nothing_goes_on_and_is_found_again() {
        machine.whenLayer(3, Fault.LOST_CONNECTION);
        LaidPlate plate = loaded();
        Run run = begun(plate);
        Until.true_("it is silent", () -> told(plate).stream().anyMatch(Fact.MachineSilent.class::isInstance));
        over(run);
        assertThat(book.ofRun(run.id()).orElseThrow().over().whole()).isTrue();
        assertThat(told(plate)).contains(new Fact.MachineAnswers());
        assertThat(told(plate)).filteredOn(Fact.RunStarted.class::isInstance).hasSize(1);
    }

    @Test
    void a_server_that_starts_anew_picks_up_where_things_are() {
        Run run = begun(loaded());
        Until.true_("it prints", () -> shown().layer() > 1);
        machines.start();
        Until.true_("it is found at it", () -> shown().isReached() && Optional.ofNullable(shown().runId()).equals(Optional.of(run.id())));
        over(run);
        assertThat(book.ofRun(run.id()).orElseThrow().over().whole()).isTrue();
        assertThat(runs.running()).filteredOn(one -> one.printerId().equals(printer)).hasSize(1);
    }

    @Test
    void a_run_that_ended_while_nobody_listened_is_accounted_for() {
        Run run = begun(loaded());
        machines.watcher(printer).orElseThrow().close();
        Until.true_("the machine is done by itself", () -> machine.isDone());
        assertThat(book.ofRun(run.id()).orElseThrow().over()).isNull();
        machines.start();
        over(run);
        assertThat(book.ofRun(run.id()).orElseThrow().over().whole()).isTrue();
    }

    @Test
    void another_machine_at_the_same_address_is_told_nothing() {
        LaidPlate plate = loaded();
        machine.becomes("some-other");
        Until.true_("it is seen", () -> shown().trouble() == Trouble.ANOTHER);
        assertThatThrownBy(() -> runs.start(plate, "mira")).isInstanceOf(Refusal.class).hasMessageContaining("is not the machine that answered there before");
        assertThat(plates.plate(plate.id()).waits()).isTrue();
        machine.becomes("uuid-of-" + printer);
        reached();
    }

    @Test
    void a_file_that_was_changed_on_the_card_is_not_begun() throws IOException {
        LaidPlate plate = loaded();
        Path on = machine.files().getFirst();
        Files.writeString(on, Files.readString(on).replace("G28", "G28 X"));
        runs.start(plate, "mira");
        Until.true_("it is refused", () -> shown().refused().contains("has been changed"));
        assertThat(runs.running()).noneMatch(run -> run.plateId() == plate.id());
        assertThat(plates.plate(plate.id()).waits()).isTrue();
        load(plate);
        begun(plate);
    }

    @Test
    void a_second_server_at_the_line_is_told_so() {
        Watcher second = new Watcher(figures(), book.address(printer).orElseThrow(), book, Clock.systemUTC(), jumps, file -> Optional.empty(), printer -> Calibration.NONE, () -> { });
        second.connect(heard -> new LineLink("127.0.0.1", machine.address().port(), Duration.ofMillis(50), heard));
        try {
            Until.true_("it is busy", () -> second.shown().trouble() == Trouble.TAKEN);
            assertThat(second.obstacle()).hasValueSatisfying(why -> assertThat(why).contains("busy"));
        } finally {
            second.close();
        }
    }

    @Test
    void a_plate_that_was_laid_otherwise_since_has_its_file_sent_again() {
        LaidPlate plate = loaded();
        assertThat(machines.readied(printer, plate.id(), "another mark").file()).isEmpty();
        assertThatThrownBy(() -> machines.order(printer, plate.id(), "another mark", "mira")).isInstanceOf(Refusal.class).hasMessageContaining("is not on");
    }

    @Test
    void an_emergency_stop_stops_everything_at_once() {
        Run run = begun(loaded());
        Until.true_("it prints", () -> shown().layer() > 0);
        machines.tell(printer, new Command.EmergencyStop());
        Until.true_("it has stopped", () -> shown().trouble() == Trouble.HALTED);
        over(run);
        assertThat(book.ofRun(run.id()).orElseThrow().over().whole()).isFalse();
        machines.tell(printer, new Command.Restart());
        Until.true_("it is ready again", () -> shown().kind() != Kind.FAULT);
    }
}
