package fabbrica.web;

import static org.assertj.core.api.Assertions.assertThat;

import fabbrica.core.mesh.model.Shapes;
import java.io.IOException;
import java.net.ConnectException;
import java.net.ServerSocket;
import java.net.URI;
import java.net.http.HttpClient;
import java.net.http.HttpRequest;
import java.net.http.HttpResponse.BodyHandlers;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Duration;
import java.time.Instant;
import java.util.List;
import java.util.Map;
import java.util.concurrent.TimeUnit;
import java.util.stream.Stream;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** The archive that is installed, unpacked elsewhere and run where there is neither Java nor Maven. */
class PackageIT {

    private static final int ASKED_TO_END = 143;
    /** All of the system that the launcher is given. */
    private static final List<String> TOOLS = List.of("bash", "dirname", "realpath", "rm", "mkdir", "stat");

    @TempDir
    private static Path folder;
    private static Path installed;
    private static Map<String, String> bare;

    @BeforeAll
    static void install() throws Exception {
        String archive = run(new ProcessBuilder("../fabbrica", "package")).out().lines().reduce((a, b) -> b).orElseThrow();
        run(new ProcessBuilder("tar", "-xzf", archive, "-C", folder.toString()));
        try (Stream<Path> unpacked = Files.list(folder)) {
            installed = unpacked.filter(path -> path.getFileName().toString().startsWith("fabbrica-")).findFirst().orElseThrow();
        }
        Path tools = Files.createDirectory(folder.resolve("tools"));
        for (String tool : TOOLS) {
            Files.createSymbolicLink(tools.resolve(tool), Stream.of("/usr/bin", "/bin").map(path -> Path.of(path, tool)).filter(Files::exists)
                    .findFirst().orElseThrow());
        }
        bare = Map.of("PATH", tools.toString(), "JAVA_HOME", folder.resolve("no-java").toString(), "HOME", folder.toString(),
                "FABBRICA_DATA", folder.resolve("lab").toString());
    }

    @AfterAll
    static void nothingIsLeftBehindInTheInstallation() throws IOException {
        try (Stream<Path> files = Files.list(installed.resolve("app"))) {
            assertThat(files.map(file -> file.getFileName().toString())).doesNotContain("training", "web.aot.new", "cli.aot.new");
        }
    }

    @Test
    void there_is_neither_java_nor_maven() throws Exception {
        assertThat(bare("bash", "-c", "command -v java || command -v mvn").status()).isEqualTo(1);
    }

    @Test
    void parts_are_checked_from_the_shell() throws Exception {
        Path part = Files.write(folder.resolve("part.stl"), Files3d.stl(Shapes.box(20, 30, 40)));
        Ended check = bare(launcher(), "check", part.toString(), "--json");
        assertThat(check.status()).as(check.out()).isZero();
        assertThat(check.out()).contains("\"triangles\":12");
    }

    /** Of large files the launcher has the compiler work otherwise, of which nothing is to be heard. */
    @Test
    void a_large_part_is_answered_with_a_report_and_nothing_else() throws Exception {
        Path part = Files.write(folder.resolve("large.stl"), Files3d.stl(Shapes.sphere(40, 1000, 220)));
        assertThat(Files.size(part)).isGreaterThan(20_000_000);
        assertThat(bare(launcher(), "check", part.toString(), "--json", "--soundness").out().strip()).startsWith("{").endsWith("}")
                .contains("\"triangles\":438000");
    }

    @Test
    void it_serves_is_backed_up_meanwhile_and_ends_when_it_is_asked_to() throws Exception {
        int pages = free(), health = free();
        ProcessBuilder start = inBare(launcher(), "start");
        start.environment().putAll(Map.of("FABBRICA_PORT", Integer.toString(pages), "FABBRICA_HEALTH_PORT", Integer.toString(health)));
        Process server = start.redirectErrorStream(true).redirectOutput(folder.resolve("out").toFile()).start();
        try {
            String told = waitFor("http://127.0.0.1:%d/actuator/health".formatted(health), server);
            assertThat(told).contains("\"status\":\"UP\"");
            assertThat(waitFor("http://127.0.0.1:%d/setup".formatted(pages), server)).contains("Name of the lab");
            Path backup = folder.resolve("backup");
            Ended made = bare(launcher(), "backup", backup.toString());
            assertThat(made.status()).as(made.out()).isZero();
            assertThat(backup.resolve("fabbrica.db")).exists();
        } finally {
            server.destroy();
        }
        assertThat(server.waitFor(1, TimeUnit.MINUTES)).isTrue();
        assertThat(server.exitValue()).isEqualTo(ASKED_TO_END);
        assertThat(folder.resolve("lab/logs/fabbrica.log")).content().contains("Started");
        assertThat(bare(launcher(), "verify-data").out()).contains("Whole:");
    }

    @Test
    void what_needs_the_sources_is_refused_with_a_sentence() throws Exception {
        Ended test = bare(launcher(), "test");
        assertThat(test.status()).isEqualTo(2);
        assertThat(test.out()).contains("done in a checkout");
    }

    @Test
    void systemd_takes_the_unit_and_finds_little_exposed() throws Exception {
        Path unit = Files.writeString(folder.resolve("fabbrica.service"), Files.readString(installed.resolve("fabbrica.service"))
                .replace("/opt/fabbrica", installed.toString()));
        assertThat(run(new ProcessBuilder("systemd-analyze", "verify", unit.toString())).out()).isEmpty();
        run(new ProcessBuilder("systemd-analyze", "security", "--offline=true", "--threshold=20", unit.toString()));
    }

    private record Ended(int status, String out) {
    }

    private static String launcher() {
        return installed.resolve("fabbrica").toString();
    }

    private static Ended bare(String... command) throws Exception {
        return ended(inBare(command));
    }

    private static ProcessBuilder inBare(String... command) {
        ProcessBuilder builder = new ProcessBuilder(command);
        builder.environment().clear();
        builder.environment().putAll(bare);
        return builder.directory(folder.toFile());
    }

    private static Ended run(ProcessBuilder builder) throws Exception {
        Ended ended = ended(builder);
        assertThat(ended.status()).as(ended.out()).isZero();
        return ended;
    }

    private static Ended ended(ProcessBuilder builder) throws Exception {
        Process process = builder.redirectErrorStream(true).start();
        String out = new String(process.getInputStream().readAllBytes());
        return new Ended(process.waitFor(), out);
    }

    /** What is answered at an address, once it is answered with all well. */
    private static String waitFor(String address, Process server) throws Exception {
        HttpRequest request = HttpRequest.newBuilder(URI.create(address)).build();
        Instant until = Instant.now().plus(Duration.ofMinutes(2));
        try (HttpClient client = HttpClient.newHttpClient()) {
            while (server.isAlive() && Instant.now().isBefore(until)) {
                try {
                    var answer = client.send(request, BodyHandlers.ofString());
                    if (answer.statusCode() == 200) {
                        return answer.body();
                    }
                } catch (ConnectException notYet) {
                    // Asked again below.
                }
                Thread.sleep(200);
            }
        }
        throw new AssertionError(Files.readString(folder.resolve("out")));
    }

    private static int free() throws IOException {
        try (ServerSocket socket = new ServerSocket(0)) {
            return socket.getLocalPort();
        }
    }
}
