package fabbrica.web.machine;

import fabbrica.core.run.Command;
import fabbrica.core.run.Reckoning;
import fabbrica.core.run.Trouble;
import fabbrica.web.platform.ClockJumps;
import fabbrica.web.platform.Live;
import fabbrica.web.platform.Refusal;
import fabbrica.web.platform.events.Fact;
import fabbrica.web.platform.events.Happened;
import fabbrica.web.platform.storage.FileStore;
import fabbrica.web.stores.Inventory;
import fabbrica.web.stores.Lessons;
import fabbrica.web.stores.StockPrinter;
import jakarta.annotation.PreDestroy;
import java.time.Clock;
import java.time.Duration;
import java.util.Comparator;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Optional;
import java.util.concurrent.ConcurrentHashMap;
import java.util.concurrent.atomic.AtomicReference;
import java.util.stream.IntStream;
import org.springframework.beans.factory.annotation.Value;
import org.springframework.boot.context.event.ApplicationReadyEvent;
import org.springframework.context.annotation.Lazy;
import org.springframework.context.event.EventListener;
import org.springframework.core.annotation.Order;
import org.springframework.stereotype.Component;
import org.springframework.transaction.event.TransactionalEventListener;

/** The machines of all printers, watched from the start of the server to its end. Used in templates as {@code @machines}. */
@Component("machines")
@Lazy(false)
public class Machines {

    private static final int MOST_SHOWN = 2;

    private final MachineBook book;
    private final Inventory inventory;
    private final FileStore files;
    private final Live live;
    private final Clock clock;
    private final ClockJumps jumps;
    private final Duration every;
    private final Courses courses;
    private final Lessons lessons;
    private final Map<String, Watcher> watchers = new ConcurrentHashMap<>();
    private final AtomicReference<List<Alarm>> alarmed = new AtomicReference<>(List.of());

    Machines(MachineBook book, Inventory inventory, FileStore files, Courses courses, Lessons lessons, Live live, Clock clock, ClockJumps jumps, @Value("${fabbrica.machine.every:1s}") Duration every) {
        this.book = book;
        this.inventory = inventory;
        this.files = files;
        this.courses = courses;
        this.lessons = lessons;
        this.live = live;
        this.clock = clock;
        this.jumps = jumps;
        this.every = every;
    }

    /** A machine that is in trouble. */
    public record Alarm(Watched machine, Trouble trouble) {

        /** Whether pages show the same of it. */
        boolean isLike(Alarm other) {
            return trouble == other.trouble && machine.printerId().equals(other.machine.printerId()) && machine.kind() == other.machine.kind()
                    && machine.said().equals(other.machine.said()) && machine.layer() == other.machine.layer();
        }
    }

    @Order(0)
    @EventListener(ApplicationReadyEvent.class)
    void start() {
        inventory.printers().forEach(printer -> watchAnew(printer.id()));
    }

    private synchronized Watcher watch(StockPrinter printer) {
        Watcher known = watchers.get(printer.id());
        if (known != null) {
            return known;
        }
        MachineAddress address = book.address(printer.id()).orElse(null);
        Watcher watcher = new Watcher(printer.printer(), address, book, clock, jumps, courses, lessons, this::moved);
        watchers.put(printer.id(), watcher);
        watcher.connect(events -> address == null ? new HandLink(printer.name(), watcher::begun, this::reckoning, clock, every, events)
                : new LineLink(address.host(), address.port(), every, events));
        moved();
        return watcher;
    }

    private synchronized void forget(String printerId) {
        Optional.ofNullable(watchers.remove(printerId)).ifPresent(Watcher::close);
    }

    private void moved() {
        live.machineMoves();
        List<Alarm> now = alarms(), before = alarmed.getAndSet(now);
        if (now.size() != before.size() || IntStream.range(0, now.size()).anyMatch(i -> !now.get(i).isLike(before.get(i)))) {
            live.alarm();
        }
    }

    private Optional<Reckoning> reckoning(MachineFile file) {
        return inventory.printer(file.printerId()).flatMap(printer -> courses.of(file).map(course -> new Reckoning(course, printer.printer().preparation())));
    }

    /** What is kept for the machine of a printer; nothing when it is started by hand. */
    public Optional<MachineAddress> address(String printerId) {
        return watcher(printerId).flatMap(Watcher::address);
    }

    Optional<Watcher> watcher(String printerId) {
        Watcher known = watchers.get(printerId);
        return known != null ? Optional.of(known) : inventory.printer(printerId).map(this::watch);
    }

    public Optional<Watched> of(String printerId) {
        return watcher(printerId).map(Watcher::shown);
    }

    /** All, by name. */
    public List<Watched> all() {
        return watchers.values().stream().map(Watcher::shown).sorted(Comparator.comparing(Watched::name)).toList();
    }

    /** Those in trouble, what cannot wait first, then by name. */
    public List<Alarm> alarms() {
        return all().stream().filter(machine -> machine.trouble() != null).map(machine -> new Alarm(machine, Objects.requireNonNull(machine.trouble())))
                .sorted(Comparator.comparing(Alarm::trouble)).toList();
    }

    /** The first of them, as every page has room for. */
    public List<Alarm> firstAlarms() {
        return alarms().stream().limit(MOST_SHOWN).toList();
    }

    /** The names of the others. */
    public List<String> otherAlarms() {
        return alarms().stream().skip(MOST_SHOWN).map(alarm -> alarm.machine().name()).toList();
    }

    /** Where a printer's machine answers from now on. */
    public void connect(MachineAddress address, String who) {
        refuseWhileAtWork(address.printerId());
        book.save(address, who);
        watchAnew(address.printerId());
    }

    void disconnect(String printerId, String who) {
        refuseWhileAtWork(printerId);
        book.remove(printerId, who);
        watchAnew(printerId);
    }

    private synchronized void watchAnew(String printerId) {
        forget(printerId);
        watch(inventory.printer(printerId).orElseThrow());
    }

    private void refuseWhileAtWork(String printerId) {
        of(printerId).filter(Watched::holdsOn).ifPresent(machine -> {
            throw new Refusal("%s is at a print; that has to end first.".formatted(machine.name()));
        });
    }

    /** Why nothing can be begun on a printer's machine now; nothing when it can. */
    public Optional<String> obstacle(String printerId) {
        return watcher(printerId).flatMap(Watcher::obstacle);
    }

    /**
     * What stands between a plate and its machine: its file.
     *
     * @param carried     whether whoever starts it brings the file along
     * @param firstLayerS that its first layer takes; 0 while nobody knows
     */
    public record Readied(boolean carried, boolean sending, Optional<MachineFile> file, String refused, double firstLayerS) {
    }

    /** @param mark of what the plate's file is made from */
    public Readied readied(String printerId, long plateId, String mark) {
        Watcher watcher = watcher(printerId).orElseThrow();
        return new Readied(watcher.shown().reckoned(), watcher.isSending(), watcher.fileFor(plateId, mark), watcher.shown().refused(), watcher.firstLayerS(plateId));
    }

    /** Puts a plate's file on its machine, under a name that is never used again. */
    public void load(String printerId, long plateId, String mark, byte[] content) {
        watcher(printerId).orElseThrow().load(plateId, mark, MachineFile.name(plateId), content);
    }

    /**
     * Somebody has confirmed that all is ready for this plate: its machine begins. Not to be called within a transaction.
     *
     * @return the run, when it has begun at once; else it will begin when the machine does
     */
    public Optional<Long> order(String printerId, long plateId, String mark, String who) {
        return watcher(printerId).orElseThrow().order(plateId, mark, who);
    }

    void tell(String printerId, Command command) {
        watcher(printerId).orElseThrow().tell(command);
    }

    /** Whether a printer's machine is still at a run, and will say itself when that is over. */
    public boolean holdsOn(String printerId, long runId) {
        return of(printerId).filter(machine -> machine.holdsOn() && Objects.equals(machine.runId(), runId)).isPresent();
    }

    /** Whether a printer's machine has said itself that a run is over, and nobody has cleared it. */
    public boolean isOver(String printerId, long runId) {
        return of(printerId).filter(machine -> machine.isOver() && Objects.equals(machine.runId(), runId)).isPresent();
    }

    /** Whether a printer's machine holds a run that it did not bring to its end. */
    public boolean brokeOff(String printerId, long runId) {
        return of(printerId).filter(machine -> machine.trouble() == Trouble.CUT_SHORT && Objects.equals(machine.runId(), runId)).isPresent();
    }

    /** What the camera over a bed shows; nothing when there is none, or it does not answer. */
    Optional<byte[]> picture(String printerId) {
        return address(printerId).flatMap(CameraPicture::of);
    }

    /** On a thread of its own: a watcher may be waiting to write while whoever wrote this holds the turn. */
    @TransactionalEventListener
    void happened(Happened happened) {
        Thread.ofVirtual().start(() -> learn(happened));
    }

    private void learn(Happened happened) {
        String printerId = happened.about().printer();
        if (printerId == null) {
            return;
        }
        Optional<Watcher> watcher = watcher(printerId);
        Long run = happened.about().run();
        switch (happened.fact()) {
            case Fact.RunEnded ended when run != null -> watcher.flatMap(its -> its.cleared(run)).map(MachineFile::sha256).ifPresent(files::release);
            case Fact.Changed changed when changed.thing() == Fact.Thing.PRINTER -> inventory.printer(printerId).map(StockPrinter::printer)
                    .ifPresentOrElse(printer -> watcher.ifPresent(its -> its.knows(printer)), () -> forget(printerId));
            default -> { }
        }
    }

    @PreDestroy
    void close() {
        watchers.values().forEach(Watcher::close);
    }
}
