package fabbrica.web.stores;

import com.github.benmanes.caffeine.cache.LoadingCache;
import fabbrica.web.platform.Caches;
import fabbrica.web.platform.storage.DataFolder;
import fabbrica.web.platform.storage.DiskUse;
import java.nio.file.Path;
import java.time.Duration;
import org.springframework.core.env.Environment;
import org.springframework.stereotype.Component;

/** What the lab's data take on the disk, looked at once a minute at most. */
@Component
class Disk {

    private final Path folder;
    private final LoadingCache<Path, DiskUse> known = Caches.of(1).expireAfterWrite(Duration.ofMinutes(1)).build(DiskUse::of);

    Disk(Environment environment) {
        this.folder = DataFolder.of(environment);
    }

    DiskUse now() {
        return known.get(folder);
    }
}
