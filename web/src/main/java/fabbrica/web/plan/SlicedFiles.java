package fabbrica.web.plan;

import com.github.benmanes.caffeine.cache.Cache;
import fabbrica.core.estimate.Estimate;
import fabbrica.core.gcode.GcodeFormatException;
import fabbrica.core.gcode.GcodeReader;
import fabbrica.core.gcode.Replay;
import fabbrica.core.gcode.SlicedFileFindings;
import fabbrica.core.inspect.Finding;
import fabbrica.core.inspect.Severity;
import fabbrica.core.mesh.io.ModelArchive;
import fabbrica.core.recipe.Material;
import fabbrica.core.recipe.Printer;
import fabbrica.core.recipe.Spool;
import fabbrica.web.platform.Caches;
import fabbrica.web.platform.Refusal;
import fabbrica.web.platform.storage.FileStore;
import fabbrica.web.platform.storage.FileStore.Stored;
import fabbrica.web.stores.Inventory;
import fabbrica.web.stores.StockPrinter;
import fabbrica.web.stores.StockSpool;
import java.io.IOException;
import java.io.InputStream;
import java.io.UncheckedIOException;
import java.nio.file.Files;
import java.time.Clock;
import java.util.ArrayList;
import java.util.Collection;
import java.util.Comparator;
import java.util.List;
import java.util.Optional;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Service;
import org.springframework.transaction.support.TransactionTemplate;

/** Takes in files sliced elsewhere and judges for which printer and spool they are. */
@Service
public class SlicedFiles {

    private static final int MOST_LOOSE = 6;

    private final SlicedFileRepository repository;
    private final FileStore files;
    private final Inventory inventory;
    private final Clock clock;
    private final TransactionTemplate transaction;
    private final Cache<Key, Replay> replays = Caches.of(50).build();

    SlicedFiles(SlicedFileRepository repository, FileStore files, Inventory inventory, Clock clock,
                TransactionTemplate transaction) {
        this.repository = repository;
        this.files = files;
        this.inventory = inventory;
        this.clock = clock;
        this.transaction = transaction;
    }

    private record Key(String sha256, Printer printer) {
    }

    /** A file on one printer. */
    record Judged(StockPrinter printer, Estimate estimate, List<Finding> findings) {

        public boolean stops() {
            return findings.stream().anyMatch(finding -> finding.severity() == Severity.BLOCK);
        }
    }

    /**
     * @param ticketId null when it comes by itself
     * @param token    made new for every form, so that a form sent twice is one file
     * @throws Refusal with the reason when it is not taken
     */
    public SlicedFile take(@Nullable Long ticketId, String fileName, long bytes, InputStream content, String token) throws IOException {
        if (bytes == 0) {
            throw new Refusal("The file is empty.");
        }
        if (bytes > inventory.lab().limitBytes()) {
            throw new Refusal("The file is over the lab's limit of %d MB.".formatted(inventory.lab().limitMb()));
        }
        String name = ModelArchive.baseName(fileName == null ? "" : fileName);
        try (FileStore.Batch batch = files.batch()) {
            Stored stored = batch.store(content);
            requireGcode(stored);
            return transaction.execute(status -> repository.withToken(token).orElseGet(() ->
                    file(repository.insert(ticketId, name, stored, token, clock.instant()))));
        }
    }

    private void requireGcode(Stored stored) throws IOException {
        try (InputStream in = Files.newInputStream(files.path(stored.sha256()))) {
            GcodeReader.read(in, line -> { });
        } catch (GcodeFormatException e) {
            throw new Refusal(String.valueOf(e.getMessage()));
        }
    }

    /** The latest first. */
    public List<SlicedFile> ofTickets(Collection<Long> ticketIds) {
        return repository.ofTickets(ticketIds);
    }

    /** The latest that came without a ticket. */
    public List<SlicedFile> loose() {
        return repository.loose(MOST_LOOSE);
    }

    SlicedFile file(long id) {
        return repository.find(id).orElseThrow();
    }

    /** On every printer that is in order or expected back; those that can run it first. */
    List<Judged> judge(SlicedFile file, Material material, @Nullable Spool spool) {
        List<Judged> judged = new ArrayList<>();
        for (StockPrinter printer : inventory.printers()) {
            if (printer.canBePlanned()) {
                Replay replay = replay(file, printer.printer());
                judged.add(new Judged(printer, Estimate.of(replay, printer.printer(), material),
                        SlicedFileFindings.of(replay, printer.printer(), material, spool)));
            }
        }
        judged.sort(Comparator.comparing(Judged::stops));
        return judged;
    }

    /** The spool whose material wants about the temperatures that the file sets. */
    Optional<StockSpool> likeliest(SlicedFile file, List<StockSpool> shelf) {
        Optional<StockPrinter> any = inventory.printers().stream().findFirst();
        if (any.isEmpty()) {
            return Optional.empty();
        }
        Replay replay = replay(file, any.get().printer());
        return shelf.stream().min(Comparator.comparingDouble(spool -> {
            Material material = inventory.material(spool.spool().materialId()).orElseThrow();
            return Math.abs(material.nozzleC() - replay.hottestNozzle()) + Math.abs(material.bedC() - replay.hottestBed());
        }));
    }

    Replay replay(SlicedFile file, Printer printer) {
        return replays.get(new Key(file.sha256(), printer), key -> {
            try (InputStream in = files.source(file.name(), file.sha256()).open()) {
                return Replay.of(in, printer);
            } catch (IOException e) {
                throw new UncheckedIOException(e);
            }
        });
    }
}
