package fabbrica.web.upkeep;

import fabbrica.web.platform.storage.DataFolder;
import fabbrica.web.platform.storage.FolderRefused;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Clock;
import java.time.LocalDateTime;
import java.util.Arrays;
import org.flywaydb.core.Flyway;
import org.flywaydb.core.api.MigrationInfo;
import org.flywaydb.core.api.MigrationInfoService;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.boot.flyway.autoconfigure.FlywayMigrationStrategy;
import org.springframework.core.env.Environment;
import org.springframework.stereotype.Component;

/**
 * Brings the data of an earlier version up to this one at its first start, after a backup by which the earlier version can
 * go on. Data of a later version are refused: this one would not understand them.
 */
@Component
class Upgrade implements FlywayMigrationStrategy {

    private static final Logger LOG = LoggerFactory.getLogger(Upgrade.class);

    private final Path data;
    private final Clock clock;

    Upgrade(Environment environment, Clock clock) {
        this.data = DataFolder.of(environment);
        this.clock = clock;
    }

    /** @throws FolderRefused when the data are a later version's, or no backup can be made; then nothing was changed */
    @Override
    public void migrate(Flyway flyway) {
        MigrationInfoService versions = flyway.info();
        MigrationInfo at = versions.current();
        if (Arrays.stream(versions.applied()).anyMatch(applied -> !applied.getState().isResolved())) {
            throw new FolderRefused(("The data in %s are of a later Fabbrica (format %s): nothing in them was touched. Start that one; or go "
                    + "back to what this one left, with ./fabbrica restore and the newest backup named before-upgrade in %s.")
                    .formatted(data, at.getVersion(), DataFolder.backups(data)));
        }
        if (at != null && versions.pending().length > 0) {
            keep(at.getVersion().toString());
        }
        flyway.migrate();
    }

    private void keep(String format) {
        Path to = DataFolder.backups(data).resolve("before-upgrade-of-format-%s-%s".formatted(format, LocalDateTime.now(clock).format(Restore.STAMP)));
        try {
            Files.createDirectories(to.getParent());
            Backup.write(data, to, null);
        } catch (UpkeepException | IOException e) {
            throw new FolderRefused("The data in %s are of an earlier Fabbrica, and no backup could be made before the upgrade; nothing was changed: %s"
                    .formatted(data, e.getMessage()));
        }
        LOG.info("The data were of format {}; what they were is kept in {}", format, to);
    }
}
