package fabbrica.web.upkeep;

import fabbrica.web.platform.storage.DataFolder;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Clock;
import java.time.LocalDate;
import java.time.LocalTime;
import java.util.List;
import java.util.stream.Stream;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.beans.factory.annotation.Value;
import org.springframework.boot.autoconfigure.condition.ConditionalOnProperty;
import org.springframework.context.annotation.Lazy;
import org.springframework.core.env.Environment;
import org.springframework.scheduling.annotation.Scheduled;
import org.springframework.stereotype.Component;

/**
 * A backup each night under the data folder, or when the server runs next; kept for some days. Unchanged files are shared
 * between the nights. It helps against mistakes; against a lost disk only a backup elsewhere does.
 */
@Component
@Lazy(false)
@ConditionalOnProperty(name = "fabbrica.demo", havingValue = "false")
class NightlyBackup {

    private static final Logger LOG = LoggerFactory.getLogger(NightlyBackup.class);
    private static final LocalTime HOUR = LocalTime.of(3, 0);
    private static final String NIGHT = "\\d{4}-\\d\\d-\\d\\d";

    private final Path data;
    private final Path folder;
    private final int keepDays;
    private final Clock clock;

    /** @param keepDays how many days back one can go; 0 makes none */
    NightlyBackup(Environment environment, @Value("${fabbrica.backup.keep-days}") int keepDays, Clock clock) {
        this.data = DataFolder.of(environment);
        this.folder = DataFolder.backups(data);
        this.keepDays = keepDays;
        this.clock = clock;
    }

    @Scheduled(initialDelayString = "PT2M", fixedDelayString = "PT10M")
    void whenItIsTime() {
        try {
            make();
        } catch (UpkeepException | IOException e) {
            LOG.error("No backup was made: {}", e.getMessage());
        }
    }

    /** Makes last night's unless it is there, and drops those that are too old. */
    void make() throws IOException {
        LocalDate night = LocalTime.now(clock).isBefore(HOUR) ? LocalDate.now(clock).minusDays(1) : LocalDate.now(clock);
        Path to = folder.resolve(night.toString());
        if (keepDays == 0 || Files.exists(to)) {
            return;
        }
        Files.createDirectories(folder);
        for (Path killed : named(".*" + Backup.HALF)) {
            Disk.delete(killed);
        }
        List<Path> nights = named(NIGHT);
        DataCheck check = Backup.write(data, to, nights.isEmpty() ? null : nights.getLast());
        if (!check.whole()) {
            check.report().forEach(LOG::error);
        }
        for (Path old : nights) {
            if (LocalDate.parse(old.getFileName().toString()).isBefore(night.minusDays(keepDays))) {
                Disk.delete(old);
            }
        }
    }

    private List<Path> named(String pattern) throws IOException {
        try (Stream<Path> all = Files.list(folder)) {
            return all.filter(path -> path.getFileName().toString().matches(pattern)).sorted().toList();
        }
    }
}
