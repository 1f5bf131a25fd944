package fabbrica.web;

import static org.assertj.core.api.Assertions.assertThat;

import ch.qos.logback.classic.Logger;
import ch.qos.logback.core.rolling.RollingFileAppender;
import ch.qos.logback.core.rolling.SizeAndTimeBasedRollingPolicy;
import java.io.IOException;
import java.io.UncheckedIOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.concurrent.TimeUnit;
import java.util.stream.Stream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.slf4j.LoggerFactory;

class LogTest {

    /** A server in a process of its own, since the log of a process is set up once. */
    public static final class Server {

        private Server() {
        }

        /** @param arguments the data folder and the log, which turns over each second instead of each day */
        public static void main(String[] arguments) throws InterruptedException {
            FabbricaApplication.application().run("--server.port=0", "--fabbrica.data=" + arguments[0], "--logging.file.name=" + arguments[1],
                    "--logging.logback.rollingpolicy.file-name-pattern=" + arguments[1] + ".%d{yyyy-MM-dd-HH-mm-ss}.%i.gz");
            try {
                Logger root = (Logger) LoggerFactory.getLogger(org.slf4j.Logger.ROOT_LOGGER_NAME);
                SizeAndTimeBasedRollingPolicy<?> policy = (SizeAndTimeBasedRollingPolicy<?>) ((RollingFileAppender<?>) root.getAppender("FILE"))
                        .getRollingPolicy();
                assertThat(policy.getMaxHistory()).isEqualTo(30);
                assertThat(policy).extracting("totalSizeCap", "maxFileSize").extracting(Object::toString).containsExactly("50 MB", "5 MB");
                while (!turnedOver(Path.of(arguments[1]).getParent())) {
                    root.warn("a line");
                    Thread.sleep(100);
                }
            } catch (AssertionError | RuntimeException wrong) {
                wrong.printStackTrace();
                Runtime.getRuntime().halt(1);
            }
            Runtime.getRuntime().halt(0);
        }
    }

    @Test
    void a_log_in_a_file_turns_over_and_is_bounded(@TempDir Path folder) throws Exception {
        Path log = folder.resolve("logs/fabbrica.log");
        Process server = new ProcessBuilder(Path.of(System.getProperty("java.home"), "bin", "java").toString(), "--enable-native-access=ALL-UNNAMED",
                "-cp", System.getProperty("java.class.path"), Server.class.getName(), folder.resolve("lab").toString(), log.toString())
                .redirectErrorStream(true).redirectOutput(folder.resolve("out").toFile()).start();
        assertThat(server.waitFor(2, TimeUnit.MINUTES)).isTrue();
        assertThat(server.exitValue()).as(Files.readString(folder.resolve("out"))).isZero();
        assertThat(turnedOver(log.getParent())).isTrue();
    }

    private static boolean turnedOver(Path logs) {
        try (Stream<Path> all = Files.list(logs)) {
            return all.anyMatch(file -> file.toString().endsWith(".gz"));
        } catch (IOException e) {
            throw new UncheckedIOException(e);
        }
    }
}
