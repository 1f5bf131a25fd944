package fabbrica.web.plan;

import fabbrica.core.estimate.Estimate;
import fabbrica.core.estimate.Expected;
import fabbrica.core.gcode.GcodeFormatException;
import fabbrica.core.gcode.GcodeReader;
import fabbrica.core.gcode.Replay;
import fabbrica.core.gcode.SlicedFileFindings;
import fabbrica.core.inspect.Finding;
import fabbrica.core.judge.Verdict;
import fabbrica.core.mesh.io.ModelArchive;
import fabbrica.core.recipe.Material;
import fabbrica.core.recipe.Spool;
import fabbrica.web.platform.Refusal;
import fabbrica.web.platform.SlicedParts;
import fabbrica.web.platform.storage.FileStore;
import fabbrica.web.platform.storage.FileStore.Stored;
import fabbrica.web.stores.Inventory;
import fabbrica.web.stores.StockPrinter;
import java.io.IOException;
import java.io.InputStream;
import java.nio.file.Files;
import java.time.Clock;
import java.util.ArrayList;
import java.util.Collection;
import java.util.Comparator;
import java.util.List;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Service;
import org.springframework.transaction.support.TransactionTemplate;

/** Takes in files sliced elsewhere for tickets that have a model, and judges for which printer and spool they are. */
@Service
public class SlicedFiles {

    private final SlicedFileRepository repository;
    private final FileStore files;
    private final SlicedParts sliced;
    private final Inventory inventory;
    private final Expectations expectations;
    private final Clock clock;
    private final TransactionTemplate transaction;

    SlicedFiles(SlicedFileRepository repository, FileStore files, SlicedParts sliced, Inventory inventory, Expectations expectations, Clock clock,
                TransactionTemplate transaction) {
        this.repository = repository;
        this.files = files;
        this.sliced = sliced;
        this.inventory = inventory;
        this.expectations = expectations;
        this.clock = clock;
        this.transaction = transaction;
    }

    /** A file on one printer. */
    record Judged(StockPrinter printer, Expected expected, List<Finding> findings) {

        public Verdict.State state() {
            return Verdict.of(findings).state();
        }
    }

    /**
     * @param token    made new for every form, so that a form sent twice is one file
     * @throws Refusal with the reason when it is not taken
     */
    public SlicedFile take(long ticketId, String fileName, long bytes, InputStream content, String token) throws IOException {
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

    SlicedFile file(long id) {
        return repository.find(id).orElseThrow();
    }

    /** The picture in a file, PNG as Base64; empty without one, or without a printer to read it by. */
    String thumbnail(String sha256) {
        return inventory.printers().stream().findFirst().map(printer -> sliced.replay(sha256, printer.printer()).thumbnail()).orElse("");
    }

    /** On every printer that is in order or expected back; those that run it without care first. */
    List<Judged> judge(String sha256, Material material, @Nullable Spool spool) {
        List<Judged> judged = new ArrayList<>();
        for (StockPrinter printer : inventory.printers()) {
            if (printer.canBePlanned()) {
                Replay replay = sliced.replay(sha256, printer.printer());
                judged.add(new Judged(printer, expectations.of(Estimate.of(replay, printer.printer(), material), printer.printer()),
                        SlicedFileFindings.of(replay, printer.printer(), material, spool)));
            }
        }
        judged.sort(Comparator.comparing(Judged::state));
        return judged;
    }
}
