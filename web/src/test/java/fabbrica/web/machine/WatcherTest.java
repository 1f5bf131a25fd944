package fabbrica.web.machine;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.mockito.ArgumentMatchers.any;
import static org.mockito.ArgumentMatchers.anyBoolean;
import static org.mockito.ArgumentMatchers.anyLong;
import static org.mockito.ArgumentMatchers.eq;
import static org.mockito.Mockito.clearInvocations;
import static org.mockito.Mockito.doNothing;
import static org.mockito.Mockito.doThrow;
import static org.mockito.Mockito.inOrder;
import static org.mockito.Mockito.mock;
import static org.mockito.Mockito.never;
import static org.mockito.Mockito.times;
import static org.mockito.Mockito.verify;
import static org.mockito.Mockito.when;

import fabbrica.core.estimate.Calibration;
import fabbrica.core.estimate.Calibration.Factor;
import fabbrica.core.estimate.Stage;
import fabbrica.core.gcode.FileCourse;
import fabbrica.core.recipe.BuiltIn;
import fabbrica.core.recipe.Printer;
import fabbrica.core.run.Command;
import fabbrica.core.run.MachineEvent;
import fabbrica.core.run.MachineEvent.Doing;
import fabbrica.core.run.MachineEvent.Ended;
import fabbrica.core.run.MachineEvent.Reported;
import fabbrica.core.run.MachineEvent.Warmth;
import fabbrica.core.run.MachineState;
import fabbrica.core.run.Trouble;
import fabbrica.web.SetClock;
import fabbrica.web.platform.ClockJumps;
import fabbrica.web.platform.events.Fact;
import fabbrica.web.platform.storage.StorageException;
import fabbrica.web.platform.storage.StorageFault;
import java.io.IOException;
import java.io.UncheckedIOException;
import java.nio.charset.StandardCharsets;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.concurrent.atomic.AtomicReference;
import java.util.function.Consumer;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.mockito.InOrder;

/** What a watcher does when the disk is full, or the clock jumps, while a machine prints. */
class WatcherTest {

    private static final StorageException FULL = new StorageException(StorageFault.FULL, null);
    private static final Printer DOOR = BuiltIn.printer("standard").orElseThrow();
    private static final String FILE = "plate-7-a.gcode";
    private static final byte[] GCODE = ("M190 S60\nM109 S210\n;LAYER:0\n" + "G1 X10 Y10 E1 F600\nG1 X100 Y100 E9 F600\n".repeat(200)).getBytes(StandardCharsets.US_ASCII);
    private static final MachineFile ON_IT = new MachineFile(FILE, DOOR.id(), 7, "hash", null, "mark", true, 20, null, "", null, 0, 0, null);
    private static final MachineFile ORDERED = ON_IT.ordered(Instant.parse("2026-03-02T10:00:00Z"), "mira");
    private static final MachineFile AT_IT = new MachineFile(FILE, DOOR.id(), 7, "hash", null, "mark", true, 20, ORDERED.orderedAt(), "mira", 70L, 3, 100, null);

    private final MachineBook book = mock(MachineBook.class);
    private Calibration taught = Calibration.NONE;
    private final List<Command> sent = new ArrayList<>();
    private final SetClock clock = new SetClock();
    private long nanos;
    private final ClockJumps jumps = new ClockJumps(clock, () -> nanos, () -> { });
    private Consumer<MachineEvent> says = event -> { };
    private Watcher.Files files = file -> course();
    private Watcher watcher;

    @BeforeEach
    void nothingOnIt() {
        watch(List.of());
        says.accept(idle(null));
    }

    private void watch(List<MachineFile> open) {
        when(book.open(DOOR.id())).thenReturn(open);
        watcher = new Watcher(DOOR, new MachineAddress(DOOR.id(), "127.0.0.1", 1, null, "", ""), book, clock, jumps, files, printer -> taught, () -> { });
        watcher.connect(events -> {
            says = events;
            return new MachineLink() {
                @Override
                public void send(Command command) {
                    sent.add(command);
                }

                @Override
                public void close() {
                }
            };
        });
        says.accept(new MachineEvent.Reached("", "", true));
    }

    private static Optional<FileCourse> course() {
        try {
            return Optional.of(FileCourse.of(GCODE, DOOR));
        } catch (IOException e) {
            throw new UncheckedIOException(e);
        }
    }

    private static Reported idle(Ended last) {
        return new Reported(new Warmth(22, 0, 22, 0), Doing.NOTHING, "", 0, 0, 0, 0, last, false);
    }

    private static Reported printing(int layer) {
        return new Reported(new Warmth(210, 210, 60, 60), Doing.PRINTING, FILE, 50, GCODE.length, layer, 40 * layer, null, false);
    }

    private static Reported paused(int layer) {
        return new Reported(new Warmth(210, 210, 60, 60), Doing.PAUSED, FILE, 50, GCODE.length, layer, 40 * layer, null, false);
    }

    @Test
    void what_is_only_reckoned_ends_no_run_and_moves_no_promise() {
        watch(List.of(AT_IT));
        says.accept(new Reported(new Warmth(210, 210, 60, 60), Doing.PRINTING, FILE, 50, GCODE.length, 4, 0, null, true));
        says.accept(new Reported(new Warmth(0, 0, 55, 0), Doing.NOTHING, "", 0, 0, 0, 0, null, true));
        assertThat(watcher.shown().isCooling()).isTrue();
        verify(book, never()).over(any(), any());
        verify(book, never()).expect(any(), anyLong(), any(), anyBoolean());
        verify(book, never()).progress(any());
    }

    @Test
    void whoever_starts_it_by_hand_does_not_wait_until_it_is_known_what_the_file_takes() {
        AtomicReference<Optional<FileCourse>> known = new AtomicReference<>(Optional.empty());
        files = new Watcher.Files() {
            @Override
            public Optional<FileCourse> of(MachineFile file) {
                throw new AssertionError("worked out while somebody waits");
            }

            @Override
            public Optional<FileCourse> known(MachineFile file) {
                return known.get();
            }
        };
        watch(List.of(AT_IT));
        Reported begun = new Reported(new Warmth(0, 0, 0, 0), Doing.PRINTING, FILE, 0, 0, 0, 0, null, true);
        says.accept(begun);
        assertThat(watcher.shown().isAtWork()).isTrue();
        assertThat(watcher.shown().ends()).isNull();
        known.set(course());
        says.accept(begun);
        assertThat(watcher.shown().ends()).isNotNull();
    }

    @Test
    void what_is_reckoned_of_a_file_that_was_cleared_away_meanwhile_counts_for_nothing() {
        says.accept(new Reported(new Warmth(0, 0, 0, 0), Doing.NOTHING, "", 0, 0, 0, 0, null, true));
        says.accept(new Reported(new Warmth(210, 210, 60, 60), Doing.PRINTING, FILE, 50, GCODE.length, 2, 0, null, true));
        assertThat(watcher.shown().kind()).isEqualTo(MachineState.Kind.IDLE);
    }

    private void pass(Duration time, Duration onTheClock) {
        nanos += time.toNanos();
        clock.pass(onTheClock);
    }

    @Test
    void what_is_told_while_the_disk_is_full_is_written_down_once_there_is_room_in_its_order() {
        watch(List.of(AT_IT));
        says.accept(printing(4));
        doThrow(FULL).when(book).tell(any(), any(MachineFile.class), any());
        says.accept(new MachineEvent.Paused("door open"));
        says.accept(new MachineEvent.Resumed());
        says.accept(printing(5));
        assertThat(watcher.shown().trouble()).isEqualTo(Trouble.UNWRITTEN);
        assertThat(watcher.shown().said()).contains("disk").contains("full");
        doNothing().when(book).tell(any(), any(MachineFile.class), any());
        clearInvocations(book);
        says.accept(printing(6));
        InOrder told = inOrder(book);
        told.verify(book).tell(any(), any(MachineFile.class), eq(new Fact.RunPaused("door open")));
        told.verify(book).tell(any(), any(MachineFile.class), eq(new Fact.RunResumed()));
        assertThat(watcher.shown().trouble()).isNull();
    }

    @Test
    void a_run_that_ends_while_the_disk_is_full_is_accounted_for_once_there_is_room_and_nothing_begins_before() {
        watch(List.of(AT_IT));
        Reported over = idle(new Ended(FILE, true, 20, 800, 3600, null));
        doThrow(FULL).when(book).over(any(), any());
        says.accept(over);
        says.accept(over);
        assertThat(watcher.shown().trouble()).isEqualTo(Trouble.UNWRITTEN);
        assertThat(watcher.obstacle()).hasValueSatisfying(why -> assertThat(why).contains("still to be cleared"));
        doNothing().when(book).over(any(), any());
        says.accept(over);
        assertThat(watcher.shown().trouble()).isNull();
        assertThat(watcher.shown().done()).isEqualTo(1);
        verify(book, times(3)).over(AT_IT.at(20, 800), new MachineFile.Over(clock.instant(), true, 3600, null));
    }

    @Test
    void what_cannot_be_written_down_is_not_begun() {
        watch(List.of(ON_IT));
        says.accept(idle(null));
        doThrow(FULL).when(book).order(any(), any());
        assertThatThrownBy(() -> watcher.order(7, "mark", "mira")).isSameAs(FULL);
        assertThat(sent).isEmpty();
        says.accept(idle(null));
        verify(book, never()).begun(any(MachineFile.class));
    }

    @Test
    void a_run_whose_begin_could_not_be_written_down_is_written_down_at_the_next_report() {
        watch(List.of(ON_IT));
        says.accept(idle(null));
        watcher.order(7, "mark", "mira");
        when(book.begun(any(MachineFile.class))).thenThrow(FULL).thenReturn(AT_IT);
        says.accept(new MachineEvent.Started(FILE));
        assertThat(watcher.shown().trouble()).isEqualTo(Trouble.UNWRITTEN);
        says.accept(printing(1));
        assertThat(watcher.shown().runId()).isEqualTo(70);
        assertThat(sent).containsExactly(new Command.Start(FILE, "hash"));
    }

    @Test
    void a_file_that_is_on_its_machine_is_written_down_once_there_is_room() {
        doThrow(FULL).when(book).loaded(any(), any(), any());
        watcher.load(8, "mark", "plate-8-b.gcode", GCODE);
        says.accept(new MachineEvent.Loaded("plate-8-b.gcode", "", true));
        assertThat(watcher.shown().trouble()).isEqualTo(Trouble.UNWRITTEN);
        assertThat(watcher.fileFor(8, "mark")).isEmpty();
        assertThat(watcher.isSending()).isTrue();
        doNothing().when(book).loaded(any(), any(), any());
        says.accept(idle(null));
        assertThat(watcher.shown().trouble()).isNull();
        assertThat(watcher.fileFor(8, "mark")).hasValueSatisfying(file -> assertThat(file.checked()).isTrue());
        assertThat(watcher.isSending()).isFalse();
    }

    @Test
    void the_end_is_expected_by_what_runs_of_the_machine_have_taught() {
        watch(List.of(AT_IT));
        says.accept(printing(4));
        Duration figures = Duration.between(clock.instant(), watcher.shown().ends());
        Factor twice = new Factor(1.9, 2, 2.1, 30);
        taught = new Calibration(Map.of(Stage.HEATING, twice, Stage.READYING, twice, Stage.PRINTING, twice), Factor.EXACT);
        watch(List.of(AT_IT));
        says.accept(printing(4));
        assertThat(Duration.between(clock.instant(), watcher.shown().ends()).toMillis()).isCloseTo(2 * figures.toMillis(), within(2L));
    }

    @Test
    void a_clock_that_jumps_moves_the_end_on_pages_but_makes_nothing_late_and_begins_nothing() {
        watch(List.of(AT_IT));
        says.accept(printing(4));
        verify(book).expect(any(), anyLong(), any(), anyBoolean());
        Instant expected = watcher.shown().ends();
        pass(Duration.ofSeconds(1), Duration.ofHours(5));
        says.accept(printing(5));
        assertThat(Duration.between(expected, watcher.shown().ends())).isEqualTo(Duration.ofHours(5));
        pass(Duration.ofSeconds(1), Duration.ofHours(-5));
        says.accept(printing(6));
        assertThat(Duration.between(expected, watcher.shown().ends())).isLessThan(Duration.ofMinutes(2));
        verify(book, never()).expect(any(), anyLong(), any(), eq(true));
        pass(Duration.ofMinutes(16), Duration.ofMinutes(16));
        says.accept(printing(7));
        verify(book).expect(any(), anyLong(), any(), eq(true));
        assertThat(sent).isEmpty();
    }
}
