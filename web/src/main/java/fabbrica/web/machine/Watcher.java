package fabbrica.web.machine;

import fabbrica.core.estimate.Calibration;
import fabbrica.core.estimate.Stage;
import fabbrica.core.gcode.FileCourse;
import fabbrica.core.recipe.Printer;
import fabbrica.core.run.Command;
import fabbrica.core.run.Cooling;
import fabbrica.core.run.MachineEvent.Ended;
import fabbrica.core.run.MachineEvent.Reported;
import fabbrica.core.run.MachineEvent.Spent;
import fabbrica.core.run.MachineEvent.Warmth;
import fabbrica.core.run.MachineEvent;
import fabbrica.core.run.MachineState;
import fabbrica.core.run.Trouble;
import fabbrica.web.machine.MachineFile.Over;
import fabbrica.web.platform.ClockJumps;
import fabbrica.web.platform.Refusal;
import fabbrica.web.platform.events.Fact;
import fabbrica.web.platform.storage.StorageException;
import fabbrica.web.stores.Lessons;
import java.io.IOException;
import java.time.Clock;
import java.time.Duration;
import java.util.ArrayDeque;
import java.util.Deque;
import java.util.List;
import java.util.Objects;
import java.util.Optional;
import java.util.function.Consumer;
import java.util.function.Function;
import org.jspecify.annotations.Nullable;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;

/**
 * Watches one printer's machine: keeps how it stands, writes down what becomes of the run it is at, and tells it to begin only what somebody has
 * confirmed for this very run. What it keeps beyond a restart is in the {@link MachineBook}; the rest it asks the machine.
 */
final class Watcher implements AutoCloseable {

    private static final Logger LOG = LoggerFactory.getLogger(Watcher.class);
    /** How often what is only progress is written down, really. */
    private static final Duration WRITES = Duration.ofSeconds(5);
    /** A machine that does not tell how a run ended has come to its end when it was this far (its last report is a little old). */
    private static final double ALL_BUT = 0.98;

    private final MachineBook book;
    private final Clock clock;
    private final ClockJumps jumps;
    private final Files files;
    private final Lessons lessons;
    private final Runnable moved;
    private Printer printer;
    private @Nullable MachineAddress address;
    private MachineState state;
    private boolean another;
    private @Nullable MachineFile file;
    private @Nullable FileCourse course;
    private @Nullable Sending sending;
    private boolean starting;
    private boolean silenceTold;
    private String refused = "";
    /** What could not be written down yet, in its order. */
    private final Deque<Fact> untold = new ArrayDeque<>();
    /** Why not, a sentence; empty when all is. */
    private String unwritten = "";
    private ExpectedEnd ends = new ExpectedEnd();
    private long wrote = System.nanoTime();
    private MachineLink link = new Nowhere();
    /** Read without waiting for what is being written down. */
    private volatile Watched shown;

    /**
     * A file on its way.
     *
     * @param arrived whether it is on the machine, and only remains to be written down
     */
    private record Sending(MachineFile file, byte[] content, FileCourse course, boolean arrived) {
    }

    /** What the files at a machine take; nothing of those that cannot be read. */
    @FunctionalInterface
    interface Files {

        /** Worked out when nobody has asked before. */
        Optional<FileCourse> of(MachineFile file);

        /** As far as it has been worked out. */
        default Optional<FileCourse> known(MachineFile file) {
            return of(file);
        }
    }

    /** As long as there is no link yet. */
    private static final class Nowhere implements MachineLink {

        @Override
        public void send(Command command) {
            throw new IllegalStateException("not connected");
        }

        @Override
        public void close() {
        }
    }

    /**
     * @param address null where somebody starts it by hand
     * @param files   what they take
     * @param moved   called whenever pages are to show something new
     */
    Watcher(Printer printer, @Nullable MachineAddress address, MachineBook book, Clock clock, ClockJumps jumps, Files files, Lessons lessons, Runnable moved) {
        this.printer = printer;
        this.address = address;
        this.book = book;
        this.clock = clock;
        this.jumps = jumps;
        this.files = files;
        this.lessons = lessons;
        this.moved = moved;
        this.state = MachineState.unknown(clock.instant());
        // What nobody began is only in the way of what somebody did.
        List<MachineFile> open = book.open(printer.id());
        this.file = open.stream().filter(one -> one.orderedAt() != null).findFirst().or(() -> open.stream().findFirst()).orElse(null);
        this.shown = watched();
    }

    synchronized void connect(Function<Consumer<MachineEvent>, MachineLink> to) {
        link = to.apply(this::accept);
    }

    /** The printer's figures have changed. */
    synchronized void knows(Printer changed) {
        printer = changed;
    }

    /** Nothing where somebody starts it by hand. */
    synchronized Optional<MachineAddress> address() {
        return Optional.ofNullable(address);
    }

    /** What somebody has had it begin with, and is not over. */
    synchronized Optional<MachineFile> begun() {
        return Optional.ofNullable(file).filter(at -> at.isOrdered() || at.isAtIt());
    }

    /** As pages show it. */
    Watched shown() {
        return shown;
    }

    private void moved() {
        shown = watched();
        moved.run();
    }

    private Watched watched() {
        MachineFile at = file;
        Reported report = state.report();
        Warmth warmth = report == null ? new Warmth(0, 0, 0, 0) : report.warmth();
        Trouble trouble = trouble().orElse(null);
        return new Watched(printer.id(), printer.name(), state.kind(job(), Cooling.LIFT_C), isReckoned(), at == null ? null : at.runId(), at == null ? 0 : at.layer(),
                course != null ? course.layers() : at == null ? 0 : at.layers(), done(), ends.at(), warmth, new Cooling(warmth.bedC()).secondsToLift(), trouble, said(trouble), refused,
                state.since(), address != null && address.cameraPort() != null);
    }

    private double done() {
        MachineFile at = file;
        Reported report = state.report();
        if (at == null || at.runId() == null) {
            return 0;
        }
        return at.over() != null ? at.over().whole() ? 1 : at.layer() / (double) Math.max(1, at.layers())
                : course == null || report == null ? 0 : course.doneAt(report.byteAt());
    }

    /** Whether it tells nothing, and takes no orders. */
    private boolean isReckoned() {
        Reported report = state.report();
        return report != null && report.reckoned();
    }

    private MachineState.@Nullable Job job() {
        return file == null || file.runId() == null && !file.isOrdered() ? null : file.job();
    }

    private Optional<Trouble> trouble() {
        return another ? Optional.of(Trouble.ANOTHER) : state.trouble(job()).filter(trouble -> trouble != Trouble.UNKNOWN_FILE || !holdsCarried())
                .or(() -> unwritten.isEmpty() ? Optional.empty() : Optional.of(Trouble.UNWRITTEN));
    }

    /** A machine that came onto the line in the middle of a run calls its file by a name of its own. */
    private boolean holdsCarried() {
        return file != null && file.isCarried() && file.isAtIt();
    }

    private String said(@Nullable Trouble trouble) {
        return trouble == null ? "" : switch (trouble) {
            case SILENT -> state.why();
            case HALTED -> state.halted();
            case OFF_BED, NO_FILAMENT, OPEN, PAUSED -> state.paused();
            case CUT_SHORT -> file == null ? "" : "at layer %d of %d".formatted(file.layer(), file.layers());
            case UNKNOWN_FILE -> Objects.requireNonNull(state.report()).file();
            case UNWRITTEN -> unwritten;
            case COLD, TAKEN, ANOTHER -> "";
        };
    }

    /** Why nothing can be begun on it now; nothing when it can. */
    synchronized Optional<String> obstacle() {
        if (another) {
            return Optional.of("%s %s.".formatted(printer.name(), Trouble.ANOTHER.label()));
        }
        return switch (state.kind(job(), Cooling.LIFT_C)) {
            case OUT_OF_REACH -> Optional.of("%s cannot be reached: %s.".formatted(printer.name(), state.why().isEmpty() ? "it has said nothing yet" : state.why()));
            case FAULT -> Optional.of("%s has stopped everything; it is to be looked after first.".formatted(printer.name()));
            case WARMING, PRINTING, PAUSED -> Optional.of("%s is at a print.".formatted(printer.name()));
            case COOLING, TO_BE_CLEARED -> Optional.of("The print before is still to be cleared off %s.".formatted(printer.name()));
            case IDLE -> Optional.empty();
        };
    }

    synchronized boolean isSending() {
        return sending != null;
    }

    /** What is on it for a plate as it is now and was not begun yet. */
    synchronized Optional<MachineFile> fileFor(long plateId, String mark) {
        return Optional.ofNullable(file).filter(one -> one.plateId() == plateId && one.runId() == null && one.mark().equals(mark));
    }

    /** Puts a file on it; what was on it for another plate and was not begun gives way. */
    synchronized void load(long plateId, String mark, String name, byte[] content) {
        if (isReckoned()) {
            throw new Refusal("%s is started by hand: whoever starts it brings the file along.".formatted(printer.name()));
        }
        if (isSending()) {
            throw new Refusal("%s is still taking a file.".formatted(printer.name()));
        }
        requireFree();
        SentFile sent;
        FileCourse its;
        try {
            sent = SentFile.of(content);
            its = FileCourse.of(sent.bytes(), printer);
        } catch (IllegalArgumentException | IOException e) {
            throw new Refusal("The file cannot be sent: %s.".formatted(e.getMessage()));
        }
        refused = "";
        sending = new Sending(MachineFile.sent(name, printer.id(), plateId, sent.sha256(), mark, its.layers()), sent.bytes(), its, false);
        link.send(new Command.Load(name, sent.bytes()));
        moved();
    }

    private void requireFree() {
        MachineFile at = file;
        if (at != null && at.runId() != null && book.isCleared(at)) {
            forget(at);
        }
        obstacle().ifPresent(why -> {
            throw new Refusal(why);
        });
    }

    /** Whoever confirms that all is ready has brought the file along. */
    private MachineFile carried(long plateId, String mark) {
        MachineFile before = file, its = MachineFile.carried(printer.id(), plateId, mark);
        book.carried(its, before);
        if (before != null) {
            forget(before);
        }
        file = its;
        return its;
    }

    /**
     * @return the run, when it has begun at once; else it will begin when the machine does
     * @throws Refusal when it cannot begin, and nothing was changed
     */
    synchronized Optional<Long> order(long plateId, String mark, String who) {
        requireFree();
        MachineFile on = isReckoned() ? carried(plateId, mark)
                : fileFor(plateId, mark).orElseThrow(() -> new Refusal("The file of this plate is not on %s yet.".formatted(printer.name())));
        if (starting) {
            throw new Refusal("This plate is being started already.");
        }
        book.order(on, who);
        refused = "";
        starting = true;
        file = on.ordered(clock.instant(), who);
        link.send(new Command.Start(on.file(), on.hash()));
        moved();
        if (isReckoned() && begun().isEmpty()) {
            throw new Refusal("This plate does not wait for its printer any more.");
        }
        return Optional.ofNullable(file).map(MachineFile::runId);
    }

    /**
     * What is passed on may still be refused by the machine; that shows in how it stands.
     *
     * @throws Refusal when it cannot be passed on
     */
    synchronized void tell(Command command) {
        if (another && !(command instanceof Command.EmergencyStop)) {
            throw new Refusal("%s %s.".formatted(printer.name(), Trouble.ANOTHER.label()));
        }
        refused = "";
        link.send(command);
        if (!refused.isEmpty()) {
            throw new Refusal("%s was not told: %s.%s".formatted(printer.name(), refused, command instanceof Command.EmergencyStop ? " Use its own switch." : ""));
        }
    }

    /**
     * Somebody has said how its run ended.
     *
     * @return the file, which nobody needs any more; nothing when it was at another run
     */
    synchronized Optional<MachineFile> cleared(long runId) {
        Optional<MachineFile> at = Optional.ofNullable(file).filter(one -> Objects.equals(one.runId(), runId));
        at.ifPresent(this::forget);
        return at;
    }

    private void forget(MachineFile at) {
        file = null;
        untold.clear();
        course = null;
        ends = new ExpectedEnd();
        silenceTold = false;
        if (state.reached() && !another) {
            link.send(new Command.Remove(at.file()));
        }
        moved();
    }

    /** What comes over the line; whatever fails here must not cut it. */
    private synchronized void accept(MachineEvent event) {
        if (event instanceof Reported report && isOutdated(report)) {
            return;
        }
        Optional<Trouble> before = trouble();
        MachineState.Kind kind = state.kind(job(), Cooling.LIFT_C);
        state = state.after(event, clock.instant());
        try {
            switch (event) {
                case MachineEvent.Reached(String uuid, String name, boolean hashes) -> reached(uuid, name);
                case MachineEvent.Lost lost -> lost(lost);
                case Reported report -> follow(report);
                case MachineEvent.Paused(String why) -> tell(new Fact.RunPaused(why));
                case MachineEvent.Resumed resumed -> tell(new Fact.RunResumed());
                case MachineEvent.Halted(String why) -> tell(new Fact.MachineHalted(why));
                case MachineEvent.Loaded(String name, String hash, boolean checked) -> loaded(name, checked);
                case MachineEvent.Started(String name) -> Optional.ofNullable(file).filter(at -> at.file().equals(name)).ifPresent(this::begin);
                case MachineEvent.Refused(Command command, String why) -> refused(command, why);
            }
            writeDown();
            unwritten = "";
        } catch (StorageException e) {
            unwritten = e.sentence();
            LOG.warn("What {} said cannot be written down yet: {}", printer.name(), unwritten);
        } catch (RuntimeException e) {
            LOG.error("What {} said could not be written down", printer.name(), e);
        }
        shown = watched();
        if (!(event instanceof Reported) || kind != state.kind(job(), Cooling.LIFT_C) || !before.equals(trouble()) || kind != MachineState.Kind.IDLE) {
            moved();
        }
    }

    /** What was reckoned of a file while somebody cleared it away, or began with another. */
    private boolean isOutdated(Reported report) {
        return report.reckoned() && !report.file().isEmpty() && begun().filter(at -> at.file().equals(report.file())).isEmpty();
    }

    private void reached(String uuid, String name) {
        MachineAddress at = address;
        another = at != null && !at.uuid().isEmpty() && !at.uuid().equals(uuid);
        if (at != null && at.uuid().isEmpty() && !uuid.isEmpty()) {
            address = new MachineAddress(at.printerId(), at.host(), at.port(), at.cameraPort(), uuid, name);
            book.met(address);
        }
        if (silenceTold) {
            silenceTold = false;
            tell(new Fact.MachineAnswers());
        }
    }

    /** Whether what it was told last has come to it shows when it answers again. */
    private void lost(MachineEvent.Lost lost) {
        if (sending != null && !sending.arrived()) {
            refused = lost.why();
            sending = null;
        }
        starting = false;
        if (file != null && file.isAtIt() && !silenceTold) {
            silenceTold = true;
            tell(new Fact.MachineSilent(lost.why()));
        }
    }

    /** Facts belong to the run, when there is one. */
    private void tell(Fact fact) {
        if (file != null && file.runId() != null) {
            untold.add(fact);
        }
    }

    /** What remains to be. */
    private void writeDown() {
        Sending sent = sending;
        MachineFile at = file;
        if (sent != null && sent.arrived()) {
            book.loaded(sent.file(), sent.content(), at);
            sending = null;
            if (at != null) {
                forget(at);
            }
            file = sent.file();
            course = sent.course();
        }
        while (at != null && !untold.isEmpty()) {
            book.tell("", at, untold.peek());
            untold.poll();
        }
    }

    private void loaded(String name, boolean checked) {
        Sending sent = sending;
        if (sent != null && sent.file().file().equals(name)) {
            sending = new Sending(sent.file().checked(checked), sent.content(), sent.course(), true);
        }
    }

    /** Of the file that is on it for a plate; 0 while nobody knows. */
    synchronized double firstLayerS(long plateId) {
        return file == null || course == null || file.plateId() != plateId ? 0 : course.firstLayerS();
    }

    private void refused(Command command, String why) {
        refused = why;
        switch (command) {
            case Command.Load load -> sending = null;
            case Command.Start start -> {
                starting = false;
                Optional.ofNullable(file).filter(MachineFile::isOrdered).ifPresent(at -> {
                    book.clear(at);
                    forget(at);
                });
            }
            case Command.Remove remove -> refused = "";
            case Command.Pause pause -> { }
            case Command.Resume resume -> { }
            case Command.Cancel cancel -> { }
            case Command.EmergencyStop stop -> { }
            case Command.Restart restart -> { }
        }
    }

    private void lapse(MachineFile at) {
        book.lapse(at);
        file = at.ordered(null, "");
    }

    private void begin(MachineFile at) {
        starting = false;
        if (!at.isOrdered()) {
            return;
        }
        try {
            file = book.begun(at);
        } catch (Refusal gone) {
            // The plate waits no longer: what it prints is nobody's, and that is said.
            lapse(at);
        }
    }

    private void follow(Reported report) {
        MachineFile at = file;
        if (another || at == null || at.over() != null) {
            return;
        }
        boolean atIt = report.file().equals(at.file());
        Ended last = report.last() != null && report.last().file().equals(at.file()) ? report.last() : null;
        if (at.isOrdered() && (atIt || last != null)) {
            begin(at);
        } else if (at.isOrdered() && !starting) {
            refused = "it did not begin";
            lapse(at);
        }
        MachineFile begun = Objects.requireNonNull(file);
        if (!begun.isAtIt()) {
            return;
        }
        if (atIt) {
            progress(begun, report);
        } else if (last != null) {
            over(begun.at(last.layer(), last.filamentMm()), last.whole(), last.seconds(), last.spent());
        } else if (!report.reckoned() && !begun.isCarried()) {
            broken(begun);
        }
    }

    /** It is not at it any more, and does not say why. */
    private void broken(MachineFile at) {
        FileCourse its = course(at, false);
        boolean whole = its != null && at.filamentMm() == 0 && at.layer() >= ALL_BUT * at.layers();
        double seconds = at.orderedAt() == null ? 0 : Math.max(0, Duration.between(at.orderedAt(), clock.instant()).toMillis() / 1000.0);
        over(at, whole, seconds, null);
    }

    private void over(MachineFile at, boolean whole, double seconds, @Nullable Spent spent) {
        Over over = new Over(clock.instant(), whole, seconds, spent);
        book.over(at, over);
        file = at.ended(over);
        ends.over(over.at());
    }

    private void progress(MachineFile at, Reported report) {
        FileCourse its = course(at, report.reckoned());
        MachineFile now = at.at(report.layer() > 0 || its == null ? report.layer() : its.layerAt(report.byteAt()), report.filamentMm());
        file = now;
        if (its != null) {
            expect(now, its, report);
        }
        if (!report.reckoned() && !now.equals(at) && System.nanoTime() - wrote >= WRITES.toNanos()) {
            book.progress(now);
            wrote = System.nanoTime();
        }
    }

    /** The end by what is left; while it is paused it moves on with the time. */
    private void expect(MachineFile at, FileCourse its, Reported report) {
        FileCourse.Left left = its.left(report.byteAt(), report.warmth().bedC(), report.warmth().nozzleC(), printer.preparation());
        Calibration by = lessons.calibration(printer.id());
        double seconds = by.of(Stage.HEATING).usual() * left.heatingS() + by.of(Stage.READYING).usual() * left.readyingS() + by.of(Stage.PRINTING).usual() * left.printingS();
        ends.move(clock.instant().plusMillis(Math.round(1000 * seconds)), jumps.total()).ifPresent(move -> {
            if (!report.reckoned()) {
                book.expect(at, Objects.requireNonNull(at.runId()), move.end(), move.late());
            }
            ends.moved(move);
        });
    }

    /** Of what is reckoned it is worked out where that is done: whoever starts it by hand does not wait for it. */
    private @Nullable FileCourse course(MachineFile at, boolean reckoned) {
        if (course == null) {
            course = (reckoned ? files.known(at) : files.of(at)).orElse(null);
        }
        return course;
    }

    @Override
    public void close() {
        link.close();
    }
}
