package fabbrica.bench.soak;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import java.net.ServerSocket;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Duration;
import java.util.List;
import java.util.stream.Stream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** The short form; the long one is {@code ./fabbrica soak}. */
class SoakTest {

    @TempDir
    private Path folder;

    @Test
    void every_run_of_a_machine_stands_in_the_ledger_once_with_its_plastic_though_the_server_is_killed() throws IOException, InterruptedException {
        String java = Path.of(System.getProperty("java.home"), "bin", "java").toString();
        assertThat(Soak.run(freePort(), Duration.ofSeconds(20), 2, 3, 4, folder, List.of(java, "--enable-native-access=ALL-UNNAMED", "-Xmx1g", "-jar", web().toString()))).isEmpty();
    }

    /** As it was packaged in the same build. */
    private static Path web() throws IOException {
        try (Stream<Path> built = Files.list(Path.of("..", "web", "target"))) {
            return built.filter(file -> file.getFileName().toString().matches("web-[\\d.]+\\.jar")).findFirst().orElseThrow();
        }
    }

    private static int freePort() throws IOException {
        try (ServerSocket free = new ServerSocket(0)) {
            return free.getLocalPort();
        }
    }
}
