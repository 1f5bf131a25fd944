package fabbrica.core.mesh.io;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatCode;

import fabbrica.core.gcode.Replay;
import fabbrica.core.inspect.Inspection;
import fabbrica.core.mesh.io.ModelReading.ReadModel;
import fabbrica.core.mesh.io.ModelReading.UnreadableModel;
import fabbrica.core.recipe.BuiltIn;
import java.io.ByteArrayInputStream;
import java.io.IOException;
import java.util.Set;
import java.util.stream.Stream;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.MethodSource;

/** Each of these took minutes, or all the memory there was; how long they take now stands in docs/reliability.md. */
class HostileFilesTest {

    private static final Set<String> FINE = Set.of("cubes-in-a-row.3mf", "cubes-on-one-another.3mf");

    static Stream<String> models() {
        return HostileFiles.all().keySet().stream().filter(name -> !name.endsWith(".gcode"));
    }

    @ParameterizedTest
    @MethodSource("models")
    void a_small_file_that_asks_for_much_is_measured_or_refused_with_a_sentence(String name) {
        switch (ModelFiles.read(ModelSource.of(name, HostileFiles.all().get(name).get()), ModelFiles.DEFAULT_LIMIT_BYTES)) {
            case ReadModel model -> {
                assertThat(name).isIn(FINE);
                assertThat(Inspection.of(model.mesh()).triangles()).isPositive();
            }
            case UnreadableModel(String reason) -> {
                assertThat(name).isNotIn(FINE);
                assertThat(reason).matches("(?s)[A-Z].{15,200}\\.");
            }
        }
    }

    @ParameterizedTest
    @MethodSource("sliced")
    void a_small_sliced_file_that_asks_for_much_is_replayed_or_refused_with_a_sentence(String name) throws IOException {
        ByteArrayInputStream in = new ByteArrayInputStream(HostileFiles.all().get(name).get());
        if (name.equals("arcs.gcode")) {
            assertThat(Replay.of(in, BuiltIn.printer("standard").orElseThrow()).totalSeconds()).isPositive();
        } else {
            assertThatCode(() -> Replay.of(in, BuiltIn.printer("standard").orElseThrow()))
                    .isInstanceOf(IOException.class).hasMessageContaining("is longer than 4 MB");
        }
    }

    static Stream<String> sliced() {
        return HostileFiles.all().keySet().stream().filter(name -> name.endsWith(".gcode"));
    }
}
