package fabbrica.web.machine;

import com.github.benmanes.caffeine.cache.Cache;
import fabbrica.core.gcode.FileCourse;
import fabbrica.web.platform.Caches;
import fabbrica.web.platform.storage.FileStore;
import fabbrica.web.stores.Inventory;
import java.io.IOException;
import java.nio.file.Files;
import java.util.NoSuchElementException;
import java.util.Objects;
import java.util.Optional;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.stereotype.Component;

/** What the files at machines take, worked out once each; one that cannot be read is not tried again. */
@Component
class Courses implements Watcher.Files {

    private static final Logger LOG = LoggerFactory.getLogger(Courses.class);
    private static final int MOST = 100;

    private final Inventory inventory;
    private final FileStore files;
    private final CarriedFiles carried;
    private final Cache<String, Optional<FileCourse>> known = Caches.of(MOST).build();

    Courses(Inventory inventory, FileStore files, CarriedFiles carried) {
        this.inventory = inventory;
        this.files = files;
        this.carried = carried;
    }

    /** Nothing when it cannot be read, or its plate is gone. */
    @Override
    public Optional<FileCourse> of(MachineFile file) {
        return known.get(file.file(), name -> read(file));
    }

    @Override
    public Optional<FileCourse> known(MachineFile file) {
        return Objects.requireNonNullElse(known.getIfPresent(file.file()), Optional.empty());
    }

    private Optional<FileCourse> read(MachineFile file) {
        try {
            String kept = file.sha256();
            byte[] content = kept == null ? carried.content(file.plateId()) : Files.readAllBytes(files.path(kept));
            return Optional.of(FileCourse.of(content, inventory.printer(file.printerId()).orElseThrow().printer()));
        } catch (NoSuchElementException gone) {
            return Optional.empty();
        } catch (IOException | RuntimeException e) {
            LOG.warn("The file of run {} cannot be read", file.runId(), e);
            return Optional.empty();
        }
    }
}
