package fabbrica.web.stores;

import fabbrica.core.judge.FirstPrint;
import fabbrica.core.recipe.Material;
import fabbrica.core.recipe.Nozzle;
import fabbrica.core.schedule.Calendar;
import fabbrica.web.platform.LabZone;
import fabbrica.web.platform.Outdated;
import fabbrica.web.platform.Refusal;
import fabbrica.web.platform.events.About;
import fabbrica.web.platform.events.Events;
import fabbrica.web.platform.events.Fact;
import fabbrica.web.platform.gate.UploadLimit;
import fabbrica.web.platform.storage.Kept;
import java.time.Clock;
import java.time.ZoneId;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.stream.Stream;
import org.springframework.dao.DataIntegrityViolationException;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;

/** What the lab owns: printers, nozzles and materials, and when it is open. Shared by all places. */
@Service
public class Inventory implements UploadLimit, LabZone {

    private final InventoryRepository repository;
    private final Events events;
    private final Clock clock;
    private final Kept<Optional<Lab>> lab;
    private final Kept<Calendar> calendar;
    private final Kept<CalendarText.Notes> specialDays;
    private final Kept<List<StockNozzle>> nozzles;
    private final Kept<List<Material>> materials;
    private final Kept<List<StockPrinter>> printers;

    Inventory(InventoryRepository repository, Events events, Clock clock) {
        this.repository = repository;
        this.events = events;
        this.clock = clock;
        lab = new Kept<>(repository::lab);
        calendar = new Kept<>(() -> repository.calendar(zone()));
        specialDays = new Kept<>(repository::notes);
        nozzles = new Kept<>(repository::nozzles);
        materials = new Kept<>(repository::materials);
        printers = new Kept<>(repository::printers);
    }

    /** The lab; present from the moment it is set up. */
    public Lab lab() {
        return setUp().orElseThrow();
    }

    /** The lab, once it is set up. */
    public Optional<Lab> setUp() {
        return lab.get();
    }

    @Override
    public long limitBytes() {
        return lab().limitBytes();
    }

    @Override
    public ZoneId zone() {
        return setUp().map(Lab::zone).orElse(clock.getZone());
    }

    /** When somebody is there. */
    public Calendar calendar() {
        return calendar.get();
    }

    public CalendarText.Notes specialDays() {
        return specialDays.get();
    }

    @Transactional
    public void save(Lab lab, Calendar calendar, String who) {
        repository.save(lab);
        repository.save(calendar, new CalendarText.Notes(Map.of()));
        record(who, About.NOTHING, new Fact.Added(Fact.Thing.LAB, ""));
    }

    /** @throws Outdated when the lab is no longer as somebody saw it; so with all that is changed here */
    @Transactional
    public void change(Lab seen, Lab lab, String who) {
        requireUnchanged(seen, setUp());
        repository.save(lab);
        record(who, About.NOTHING, new Fact.Changed(Fact.Thing.LAB, ""));
    }

    @Transactional
    public void change(Calendar seen, Calendar calendar, CalendarText.Notes notes, String who) {
        requireUnchanged(seen, Optional.of(calendar()));
        repository.save(calendar, notes);
        record(who, About.NOTHING, new Fact.Changed(Fact.Thing.HOURS, ""));
    }

    public List<StockNozzle> nozzles() {
        return nozzles.get();
    }

    /** Hours that each nozzle has run in all. */
    public Map<Long, Double> nozzleHours() {
        return repository.nozzleHours();
    }

    public Optional<StockNozzle> nozzle(long id) {
        return nozzles().stream().filter(nozzle -> nozzle.id() == id).findFirst();
    }

    @Transactional
    public long add(Nozzle nozzle, String fitting, String note, double hoursBefore, String who) {
        long id = repository.insert(nozzle, fitting, note, hoursBefore);
        record(who, About.nozzle(id), new Fact.Added(Fact.Thing.NOZZLE, nozzle.toString()));
        return id;
    }

    @Transactional
    public void change(StockNozzle seen, StockNozzle nozzle, String who) {
        requireUnchanged(seen, nozzle(seen.id()));
        repository.update(nozzle);
        record(who, About.nozzle(seen.id()), new Fact.Changed(Fact.Thing.NOZZLE, nozzle.nozzle().toString()));
    }

    public List<Material> materials() {
        return materials.get();
    }

    public Optional<Material> material(String id) {
        return materials().stream().filter(material -> material.id().equals(id)).findFirst();
    }

    /** @throws Outdated when there is one with its key by now */
    @Transactional
    public void add(Material material, String who) {
        requireAbsent(material(material.id()));
        repository.save(material);
        record(who, About.NOTHING, new Fact.Added(Fact.Thing.MATERIAL, material.name()));
    }

    @Transactional
    public void change(Material seen, Material material, String who) {
        requireUnchanged(seen, material(seen.id()));
        repository.save(material);
        record(who, About.NOTHING, new Fact.Changed(Fact.Thing.MATERIAL, material.name()));
    }

    public List<StockPrinter> printers() {
        return printers.get();
    }

    public Optional<StockPrinter> printer(String id) {
        return printers().stream().filter(printer -> printer.id().equals(id)).findFirst();
    }

    /** @throws Outdated when there is one with its key by now */
    @Transactional
    public void add(StockPrinter printer, String who) {
        requireAbsent(printer(printer.id()));
        requireFree(printer);
        repository.save(printer);
        record(who, About.printer(printer.id()), new Fact.Added(Fact.Thing.PRINTER, printer.name()));
    }

    /**
     * One that is moved to another place in the room waits for the check of its first print.
     *
     * @throws Refusal when its nozzle is in another printer
     */
    @Transactional
    public void change(StockPrinter seen, StockPrinter wanted, String who) {
        requireUnchanged(seen, printer(seen.id()));
        requireFree(wanted);
        boolean moved = !seen.place().isEmpty() && !wanted.place().isEmpty() && !seen.place().equals(wanted.place());
        StockPrinter printer = moved && !wanted.outOfOrder() ? wanted.with(Condition.unproved("it was moved")) : wanted;
        repository.save(printer);
        About about = About.printer(printer.id());
        if (!seen.condition().equals(printer.condition())) {
            Condition now = printer.condition();
            record(who, about, switch (now.state()) {
                case READY -> new Fact.PutInOrder();
                case UNPROVED -> new Fact.FirstPrintWanted();
                case DOWN -> new Fact.PutOutOfOrder(now.until());
            }, now.reason());
        }
        if (seen.nozzleId() != printer.nozzleId()) {
            record(who, about, new Fact.NozzleMounted(printer.nozzleId()));
        }
        if (!seen.with(printer.condition()).equals(printer)) {
            record(who, about, new Fact.Changed(Fact.Thing.PRINTER, printer.name()));
        }
    }

    /** Keeps what became of a printer's first print; one that waited for it and of which nothing is off is in order. */
    @Transactional
    public void checkFirstPrint(StockPrinter seen, FirstPrint print, List<String> off, String who) {
        requireUnchanged(seen, printer(seen.id()));
        record(who, About.printer(seen.id()), new Fact.FirstPrintChecked(print.minutes(), print.xMm(), print.yMm(), print.zMm(), off.size()));
        if (off.isEmpty() && seen.condition().unproved()) {
            change(seen, seen.with(Condition.READY), who);
        }
    }

    /**
     * Lets a printer print for members without the check of its first print.
     *
     * @throws Refusal when it is not that for which it waits
     */
    @Transactional
    public void trust(StockPrinter seen, String why, String who) {
        requireUnchanged(seen, printer(seen.id()));
        if (!seen.condition().unproved()) {
            throw new Refusal("%s does not wait for a check: it is %s.".formatted(seen.name(), seen.condition().said()));
        }
        repository.save(seen.with(Condition.READY));
        record(who, About.printer(seen.id()), new Fact.PutInOrder(), why);
    }

    private void requireFree(StockPrinter printer) {
        StockNozzle nozzle = nozzle(printer.nozzleId()).orElseThrow();
        if (nozzle.mountedIn() != null && !nozzle.mountedIn().equals(printer.id())) {
            throw new Refusal("That nozzle is in %s. A nozzle can only be in one printer.".formatted(
                    printer(nozzle.mountedIn()).orElseThrow().name()));
        }
    }

    @Transactional
    public void removePrinter(String id, String who) {
        String name = printer(id).orElseThrow().name();
        remove(() -> repository.deletePrinter(id), "Tickets or runs name this printer, so it stays on record. "
                + "Mark it out of order instead.");
        record(who, About.printer(id), new Fact.Removed(Fact.Thing.PRINTER, name));
    }

    @Transactional
    public void removeNozzle(long id, String who) {
        remove(() -> repository.deleteNozzle(id), "A printer has this nozzle in it, or runs were printed with it; it stays on record.");
        record(who, About.nozzle(id), new Fact.Removed(Fact.Thing.NOZZLE, ""));
    }

    @Transactional
    public void removeMaterial(String id, String who) {
        remove(() -> repository.deleteMaterial(id), "A printer or a spool names this material. Change those first.");
        record(who, About.NOTHING, new Fact.Removed(Fact.Thing.MATERIAL, id));
    }

    private void record(String who, About about, Fact fact) {
        record(who, about, fact, "");
    }

    private void record(String who, About about, Fact fact, String remark) {
        Stream.of(lab, calendar, specialDays, nozzles, materials, printers).forEach(Kept::changed);
        events.record(who, about, fact, remark);
    }

    private static <T> void requireUnchanged(T seen, Optional<T> now) {
        if (!now.equals(Optional.of(seen))) {
            throw new Outdated();
        }
    }

    private static void requireAbsent(Optional<?> now) {
        if (now.isPresent()) {
            throw new Outdated();
        }
    }

    private static void remove(Runnable deletion, String whyNot) {
        try {
            deletion.run();
        } catch (DataIntegrityViolationException e) {
            throw new Refusal(whyNot);
        }
    }
}
