package fabbrica.web.machine;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import fabbrica.core.mesh.model.Shapes;
import fabbrica.core.run.Command;
import fabbrica.core.run.MachineState.Kind;
import fabbrica.web.DemoLabTest;
import fabbrica.web.Steps;
import fabbrica.web.floor.Run;
import fabbrica.web.floor.RunEnd.Outcome;
import fabbrica.web.floor.Runs;
import fabbrica.web.plan.LaidPlate;
import fabbrica.web.plan.PlateFiles;
import fabbrica.web.plan.Plates;
import fabbrica.web.platform.Refusal;
import fabbrica.web.stores.Inventory;
import java.io.IOException;
import java.nio.file.Path;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.springframework.beans.factory.annotation.Autowired;

/** A printer that somebody starts by hand is watched as any other, by the clock. */
@DemoLabTest
class ByHandTest {

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
    private Inventory inventory;
    @Autowired
    private Steps steps;
    private String printer;
    private long spool;

    @BeforeEach
    void aPrinter() {
        printer = steps.printer();
        spool = steps.spool("pla", 500);
    }

    private LaidPlate queued() {
        return plates.plate(steps.queued(Shapes.box(20, 20, 4), 1, printer, spool));
    }

    private Watched shown() {
        return machines.of(printer).orElseThrow();
    }

    @Test
    void its_file_is_brought_along_and_the_run_has_begun_with_the_press() {
        LaidPlate plate = queued();
        assertThat(machines.readied(printer, plate.id(), files.mark(plate)).carried()).isTrue();
        long run = runs.start(plate, "mira").orElseThrow();
        assertThat(runs.run(run).startedBy()).isEqualTo("mira");
        assertThat(shown().runId()).isEqualTo(run);
        assertThat(shown().isAtWork()).isTrue();
        assertThat(book.ofRun(run).orElseThrow().isCarried()).isTrue();
        Until.true_("its layers are counted", () -> shown().layers() == 20);
        Until.true_("it should end some time", () -> shown().ends() != null);
        assertThat(runs.run(run).expectedEnd()).as("the promise stays as it is").isEqualTo(runs.run(run).promisedEnd());
    }

    @Test
    void nothing_else_begins_there_before_it_is_cleared_and_then_at_once() {
        long run = steps.started(queued().id());
        LaidPlate next = queued();
        assertThatThrownBy(() -> machines.order(printer, next.id(), "mark", "mira")).isInstanceOf(Refusal.class).hasMessageContaining("is at a print");
        steps.end(run, Outcome.WELL, 20, 2);
        long second = runs.start(plates.plate(next.id()), "mira").orElseThrow();
        assertThat(shown().runId()).isEqualTo(second);
    }

    @Test
    void somebody_says_how_it_ended_whenever_that_was() {
        Run run = runs.run(steps.started(queued().id()));
        assertThat(machines.holdsOn(printer, run.id())).isFalse();
        assertThat(book.ofRun(run.id()).orElseThrow().over()).isNull();
        steps.end(run.id(), Outcome.FAILED, 3, 1);
        Until.true_("it is idle", () -> shown().kind() == Kind.IDLE && shown().runId() == null);
    }

    @Test
    void what_was_put_on_its_machine_before_it_left_the_line_is_not_taken_for_what_somebody_brings(@TempDir Path card) throws IOException {
        LaidPlate plate = queued();
        try (SimulatedMachine machine = new SimulatedMachine(inventory.printer(printer).orElseThrow().printer(), card)) {
            machines.connect(machine.address(), "mira");
            Until.true_("it answers", () -> shown().kind() == Kind.IDLE);
            machines.load(printer, plate.id(), files.mark(plate), files.of(plate).content());
            Until.true_("its file is on it", () -> machines.readied(printer, plate.id(), files.mark(plate)).file().isPresent());
            machines.disconnect(printer, "mira");
        }
        long run = runs.start(plates.plate(plate.id()), "mira").orElseThrow();
        assertThat(book.ofRun(run).orElseThrow().isCarried()).isTrue();
    }

    @Test
    void it_is_told_nothing() {
        LaidPlate plate = queued();
        assertThatThrownBy(() -> machines.load(printer, plate.id(), "mark", new byte[0])).isInstanceOf(Refusal.class).hasMessageContaining("brings the file along");
        steps.started(queued().id());
        assertThat(shown().mayStop() || shown().mayPause() || shown().mayGoOn()).isFalse();
        assertThatThrownBy(() -> machines.tell(printer, new Command.EmergencyStop())).isInstanceOf(Refusal.class).hasMessageContaining("at the printer itself")
                .hasMessageContaining("Use its own switch.");
    }

    @Test
    void a_server_that_starts_anew_knows_what_was_begun() {
        long run = steps.started(queued().id());
        machines.start();
        assertThat(shown().runId()).isEqualTo(run);
        assertThat(shown().isAtWork()).isTrue();
    }

    @Test
    void a_machine_that_comes_onto_the_line_in_the_middle_of_it_ends_nothing(@TempDir Path card) throws IOException {
        long run = steps.started(queued().id());
        try (SimulatedMachine machine = new SimulatedMachine(inventory.printer(printer).orElseThrow().printer(), card)) {
            machines.connect(machine.address(), "mira");
            Until.true_("it is reached", () -> shown().isReached());
            assertThat(shown().runId()).isEqualTo(run);
            assertThat(shown().trouble()).isNull();
            assertThat(book.ofRun(run).orElseThrow().over()).isNull();
            steps.end(run, Outcome.WELL, 20, 2);
            Until.true_("it is free", () -> shown().kind() == Kind.IDLE);
            machines.disconnect(printer, "mira");
        }
        assertThat(shown().reckoned()).isTrue();
    }
}
