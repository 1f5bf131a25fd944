package fabbrica.web.stores;

import fabbrica.core.recipe.Material;
import fabbrica.core.recipe.Nozzle;
import fabbrica.web.platform.Outdated;
import fabbrica.web.platform.Refusal;
import fabbrica.web.platform.gate.UploadLimit;
import java.time.LocalDate;
import java.util.List;
import java.util.Optional;
import org.springframework.dao.DataIntegrityViolationException;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;

/** What the lab owns: printers, nozzles, materials and spools. Shared by all places. */
@Service
public class Inventory implements UploadLimit {

    private final InventoryRepository repository;

    Inventory(InventoryRepository repository) {
        this.repository = repository;
    }

    /** The lab; present from the moment it is set up. */
    public Lab lab() {
        return setUp().orElseThrow();
    }

    /** The lab, once it is set up. */
    public Optional<Lab> setUp() {
        return repository.lab();
    }

    @Override
    public long limitBytes() {
        return lab().limitBytes();
    }

    @Transactional
    public void save(Lab lab) {
        repository.save(lab);
    }

    /** @throws Outdated when the lab is no longer as somebody saw it; so with all that is changed here */
    @Transactional
    public void change(Lab seen, Lab lab) {
        requireUnchanged(seen, repository.lab());
        repository.save(lab);
    }

    public List<StockNozzle> nozzles() {
        return repository.nozzles();
    }

    public Optional<StockNozzle> nozzle(long id) {
        return nozzles().stream().filter(nozzle -> nozzle.id() == id).findFirst();
    }

    @Transactional
    public long add(Nozzle nozzle, String note) {
        return repository.insert(nozzle, note);
    }

    @Transactional
    public void change(StockNozzle seen, StockNozzle nozzle) {
        requireUnchanged(seen, nozzle(seen.id()));
        repository.update(nozzle.id(), nozzle.nozzle(), nozzle.note());
    }

    public List<Material> materials() {
        return repository.materials();
    }

    public Optional<Material> material(String id) {
        return materials().stream().filter(material -> material.id().equals(id)).findFirst();
    }

    @Transactional
    public void save(Material material) {
        repository.save(material);
    }

    /** @throws Outdated when there is one with its key by now */
    @Transactional
    public void add(Material material) {
        requireAbsent(material(material.id()));
        repository.save(material);
    }

    @Transactional
    public void change(Material seen, Material material) {
        requireUnchanged(seen, material(seen.id()));
        repository.save(material);
    }

    public List<StockPrinter> printers() {
        return repository.printers();
    }

    public Optional<StockPrinter> printer(String id) {
        return repository.printer(id);
    }

    @Transactional
    public void save(StockPrinter printer) {
        repository.save(printer);
    }

    /** @throws Outdated when there is one with its key by now */
    @Transactional
    public void add(StockPrinter printer) {
        requireAbsent(printer(printer.id()));
        repository.save(printer);
    }

    @Transactional
    public void change(StockPrinter seen, StockPrinter printer) {
        requireUnchanged(seen, printer(seen.id()));
        repository.save(printer);
    }

    public List<StockSpool> spools() {
        return repository.spools();
    }

    /** Spools that can be used: on the shelf. */
    public List<StockSpool> shelf() {
        return spools().stream().filter(spool -> !spool.retired()).toList();
    }

    public Optional<StockSpool> spool(long id) {
        return repository.spool(id);
    }

    @Transactional
    public long addSpool(String materialId, String colour, double grams, double pricePerKg, LocalDate openedOn) {
        return repository.insertSpool(materialId, colour, grams, pricePerKg, openedOn);
    }

    @Transactional
    public void changeSpool(StockSpool seen, String materialId, String colour, double remainingG, double pricePerKg,
                            LocalDate openedOn, boolean retired) {
        requireUnchanged(seen, spool(seen.id()));
        repository.updateSpool(seen.id(), materialId, colour, remainingG, pricePerKg, openedOn, retired);
    }

    /** Books grams used by a run, good or failed. */
    @Transactional
    public void take(long spoolId, double grams) {
        repository.take(spoolId, grams);
    }

    @Transactional
    public void removePrinter(String id) {
        remove(() -> repository.deletePrinter(id), "Tickets or runs name this printer, so it stays on record. "
                + "Mark it out of order instead.");
    }

    @Transactional
    public void removeNozzle(long id) {
        remove(() -> repository.deleteNozzle(id), "A printer has this nozzle in it. Change that printer first.");
    }

    @Transactional
    public void removeMaterial(String id) {
        remove(() -> repository.deleteMaterial(id), "A printer or a spool names this material. Change those first.");
    }

    @Transactional
    public void removeSpool(long id) {
        remove(() -> repository.deleteSpool(id), "Tickets or runs name this spool, so it stays on record. "
                + "Mark it as taken off the shelf instead.");
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
