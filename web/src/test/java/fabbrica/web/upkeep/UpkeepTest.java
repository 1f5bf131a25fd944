package fabbrica.web.upkeep;

import static org.assertj.core.api.Assertions.assertThat;

import fabbrica.web.platform.storage.DataFolder;
import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.io.PrintStream;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.time.ZoneOffset;
import java.util.List;
import java.util.concurrent.TimeUnit;
import java.util.stream.Stream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.springframework.mock.env.MockEnvironment;

class UpkeepTest {

    private static final int MODELS = 20;

    @TempDir
    private Path folder;

    private final ByteArrayOutputStream told = new ByteArrayOutputStream();

    @Test
    void what_is_missing_altered_and_orphaned_is_listed() throws IOException {
        Path lab = Labs.make(folder.resolve("lab"), "Dock", 3);
        assertThat(run(lab, "verify-data")).isZero();
        assertThat(told.toString()).contains("Whole: the database is sound and all 3 files it names are there, unaltered.");
        List<Path> files = files(lab);
        Files.delete(files.get(0));
        Files.writeString(files.get(1), "another");
        Files.writeString(DataFolder.files(lab).resolve("stray"), "nobody's");
        assertThat(run(lab, "verify-data")).isEqualTo(1);
        assertThat(told.toString()).contains("missing:  " + files.get(0).getFileName(), "altered:  " + files.get(1).getFileName(),
                "orphaned: stray", "Not whole.");
    }

    @Test
    void a_lab_comes_back_as_it_was_and_what_was_there_meanwhile_is_kept() throws IOException {
        Path lab = Labs.make(folder.resolve("lab"), "Dock", 3);
        Path backup = folder.resolve("backup");
        assertThat(run(lab, "backup", backup.toString())).isZero();
        Path other = Labs.make(folder.resolve("other"), "Quay", 2);
        assertThat(run(other, "restore", backup.toString())).isZero();
        assertThat(Labs.name(other)).isEqualTo("Dock");
        assertThat(DataCheck.of(other).whole()).isTrue();
        Path before;
        try (Stream<Path> kept = Files.list(other.resolve("backups"))) {
            before = kept.toList().getFirst();
        }
        assertThat(Labs.name(before)).isEqualTo("Quay");
        assertThat(DataCheck.of(before).whole()).isTrue();
    }

    @Test
    void members_who_were_forgotten_since_a_backup_are_named_when_it_brings_them_back() throws IOException {
        Path lab = Labs.make(folder.resolve("lab"), "Dock", 1);
        Labs.change(lab, "insert into member (id, name, since, forgotten_at) values (3, 'Former member 3', 0, 1767225600000), (4, 'Ada', 0, null)");
        run(lab, "backup", folder.resolve("backup").toString());
        Labs.change(lab, "update member set name = 'Former member 4', forgotten_at = 1769904000000 where id = 4");
        assertThat(run(lab, "restore", folder.resolve("backup").toString())).isZero();
        assertThat(told.toString()).contains("forget them again under Members, no. 4.");
    }

    @Test
    void a_lab_whose_database_is_destroyed_comes_back_and_the_ruin_is_kept() throws IOException {
        Path lab = Labs.make(folder.resolve("lab"), "Dock", 2);
        Path backup = folder.resolve("backup");
        run(lab, "backup", backup.toString());
        Files.writeString(DataFolder.database(lab), "no database at all");
        assertThat(run(lab, "verify-data")).isEqualTo(1);
        assertThat(run(lab, "restore", backup.toString())).isZero();
        assertThat(Labs.name(lab)).isEqualTo("Dock");
        try (Stream<Path> kept = Files.list(lab.resolve("backups"))) {
            assertThat(DataFolder.database(kept.toList().getFirst())).hasContent("no database at all");
        }
    }

    @Test
    void a_file_that_is_lost_already_is_named_and_the_rest_is_kept() throws IOException {
        Path lab = Labs.make(folder.resolve("lab"), "Dock", 3);
        Files.delete(files(lab).getFirst());
        assertThat(run(lab, "backup", folder.resolve("backup").toString())).isEqualTo(1);
        assertThat(told.toString()).contains("the database and 2 files", "missing:");
        assertThat(files(folder.resolve("backup"))).hasSize(2);
    }

    @Test
    void nothing_is_written_over_and_no_ruin_is_restored() throws IOException {
        Path lab = Labs.make(folder.resolve("lab"), "Dock", 1);
        assertThat(run(lab, "backup", lab.toString())).isEqualTo(1);
        assertThat(told.toString()).contains("There is something at");
        assertThat(run(lab, "restore", folder.resolve("nowhere").toString())).isEqualTo(1);
        assertThat(told.toString()).contains("nothing was changed");
        assertThat(Labs.name(lab)).isEqualTo("Dock");
    }

    @Test
    void a_backup_killed_at_any_moment_is_whole_or_not_there() throws Exception {
        Path lab = Labs.make(folder.resolve("lab"), "Dock", MODELS);
        int killed = 0;
        for (int i = 0; ; i++) {
            Path to = folder.resolve("backup" + i);
            boolean ended = runAndKill(lab, 250 + 90L * i, "backup", to.toString());
            if (Files.exists(to)) {
                assertThat(DataCheck.of(to).whole()).isTrue();
                assertThat(files(to)).hasSize(MODELS);
            }
            if (ended) {
                assertThat(to).exists();
                break;
            }
            killed++;
        }
        assertThat(killed).isPositive();
        assertThat(DataCheck.of(lab).whole()).isTrue();
    }

    @Test
    void a_restore_killed_at_any_moment_leaves_the_lab_before_or_the_one_restored() throws Exception {
        Path backup = folder.resolve("backup");
        Backup.write(Labs.make(folder.resolve("lab"), "Dock", MODELS), backup, null);
        int killed = 0;
        for (int i = 0; ; i++) {
            Path target = Labs.make(folder.resolve("target" + i), "Quay", MODELS / 3);
            boolean ended = runAndKill(target, 250 + 150L * i, "restore", backup.toString());
            assertThat(DataCheck.of(target).whole()).isTrue();
            assertThat(Labs.name(target)).isIn("Quay", "Dock");
            if (ended) {
                assertThat(Labs.name(target)).isEqualTo("Dock");
                break;
            }
            killed++;
        }
        assertThat(killed).isPositive();
    }

    @Test
    void nights_are_kept_for_some_days_and_share_what_did_not_change() throws IOException {
        Path lab = Labs.make(folder.resolve("lab"), "Dock", 2);
        Instant first = Instant.parse("2026-03-02T04:00:00Z");
        Files.createDirectories(lab.resolve("backups/2026-02-01.part"));
        for (int day = 0; day < 6; day++) {
            nightly(lab, first.plus(Duration.ofDays(day))).make();
            nightly(lab, first.plus(Duration.ofDays(day)).plusSeconds(3600)).make();
        }
        Path nights = lab.resolve("backups");
        try (Stream<Path> kept = Files.list(nights)) {
            assertThat(kept.map(path -> path.getFileName().toString()).sorted())
                    .containsExactly("2026-03-04", "2026-03-05", "2026-03-06", "2026-03-07");
        }
        Path last = nights.resolve("2026-03-07");
        assertThat(DataCheck.of(last).whole()).isTrue();
        assertThat(Files.getAttribute(files(last).getFirst(), "unix:nlink")).isEqualTo(4);
        assertThat(Files.getAttribute(files(lab).getFirst(), "unix:nlink")).isEqualTo(1);
    }

    private static NightlyBackup nightly(Path lab, Instant now) {
        return new NightlyBackup(new MockEnvironment().withProperty("fabbrica.data", lab.toString()), 3,
                Clock.fixed(now, ZoneOffset.UTC));
    }

    private int run(Path lab, String... arguments) {
        PrintStream terminal = new PrintStream(told);
        return Upkeep.run(arguments, lab, terminal, terminal);
    }

    /** Runs a command as a process of its own and kills it after some time; tells whether it had ended before. */
    private static boolean runAndKill(Path lab, long afterMs, String... arguments) throws Exception {
        ProcessBuilder builder = new ProcessBuilder(Path.of(System.getProperty("java.home"), "bin", "java").toString(),
                "-XX:TieredStopAtLevel=1", "--enable-native-access=ALL-UNNAMED", "-cp", System.getProperty("java.class.path"),
                Upkeep.class.getName());
        builder.command().addAll(List.of(arguments));
        builder.environment().put("FABBRICA_DATA", lab.toString());
        Process process = builder.redirectErrorStream(true).redirectOutput(ProcessBuilder.Redirect.DISCARD).start();
        boolean ended = process.waitFor(afterMs, TimeUnit.MILLISECONDS);
        process.destroyForcibly().waitFor();
        return ended;
    }

    private static List<Path> files(Path lab) throws IOException {
        try (Stream<Path> files = Files.list(DataFolder.files(lab))) {
            return files.sorted().toList();
        }
    }
}
