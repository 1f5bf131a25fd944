package fabbrica.web.platform.storage;

import static org.assertj.core.api.Assertions.assertThat;

import fabbrica.core.mesh.model.Shapes;
import fabbrica.web.DemoLabTest;
import fabbrica.web.Files3d;
import fabbrica.web.counter.Intake;
import fabbrica.web.plan.SlicedFiles;
import fabbrica.web.platform.Refusal;
import java.io.ByteArrayInputStream;
import java.io.IOException;
import java.nio.file.Files;
import java.util.List;
import java.util.UUID;
import java.util.concurrent.Callable;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.stream.Stream;
import org.junit.jupiter.api.Test;
import org.springframework.beans.factory.annotation.Autowired;
import org.springframework.jdbc.core.simple.JdbcClient;

@DemoLabTest
class FileReferenceRepositoryTest {

    @Autowired
    private FileReferenceRepository references;
    @Autowired
    private FileStore files;
    @Autowired
    private Intake intake;
    @Autowired
    private SlicedFiles sliced;
    @Autowired
    private JdbcClient jdbc;

    @Test
    void every_column_of_hashes_is_a_reference() {
        List<String> models = jdbc.sql("select distinct sha256 from model where sha256 is not null").query(String.class).list();
        assertThat(references.all()).containsAll(models);
        assertThat(references.names(models.getFirst())).isTrue();
        assertThat(references.names("0".repeat(64))).isFalse();
    }

    @Test
    void bytes_refused_as_a_model_stay_as_the_sliced_file_they_are_too() throws IOException {
        byte[] gcode = "G28\nG1 X10\n".getBytes();
        sliced.take(jdbc.sql("select min(id) from ticket").query(Long.class).single(), "stick.gcode", gcode.length, new ByteArrayInputStream(gcode), UUID.randomUUID().toString());
        String name = jdbc.sql("select sha256 from sliced_file where name = 'stick.gcode'").query(String.class).single();
        assertThat(refused("stick.stl", gcode)).isTrue();
        assertThat(files.path(name)).hasBinaryContent(gcode);
    }

    @Test
    void a_refused_archive_leaves_no_piece_and_an_accepted_one_not_itself() throws IOException {
        List<String> before = stored();
        assertThat(refused("set.zip", Files3d.zip("a.stl", new byte[10], "b.stl", new byte[20]))).isTrue();
        assertThat(stored()).isEqualTo(before);
        take("set.zip", Files3d.zip("a.stl", Files3d.stl(Shapes.box(3, 3, 41)), "b.stl", Files3d.stl(Shapes.box(3, 3, 42))));
        assertThat(stored()).hasSize(before.size() + 2);
    }

    @Test
    void the_same_bytes_taken_and_refused_at_once_are_there_in_the_end() throws Exception {
        byte[] stl = Files3d.stl(Shapes.box(3, 4, 43));
        byte[] archive = Files3d.zip("same.stl", stl);
        try (ExecutorService hands = Executors.newFixedThreadPool(4)) {
            for (int round = 0; round < 5; round++) {
                hands.invokeAll(List.<Callable<Object>>of(() -> intake("same.stl", stl), () -> refused("same.gcode.zip", archive),
                        () -> intake("same.stl", stl), () -> refused("same.txt", stl)));
            }
        }
        String name = jdbc.sql("select min(sha256) from model where name = 'same.stl'").query(String.class).single();
        assertThat(files.path(name)).hasBinaryContent(stl);
    }

    private Object intake(String name, byte[] content) throws IOException {
        take(name, content);
        return name;
    }

    private boolean refused(String name, byte[] content) throws IOException {
        try {
            take(name, content);
            return false;
        } catch (Refusal refusal) {
            return true;
        }
    }

    private void take(String name, byte[] content) throws IOException {
        intake.take(name, content.length, new ByteArrayInputStream(content), UUID.randomUUID().toString(), "mira");
    }

    private List<String> stored() throws IOException {
        try (Stream<java.nio.file.Path> all = Files.list(files.path("0".repeat(64)).getParent())) {
            return all.map(path -> path.getFileName().toString()).sorted().toList();
        }
    }
}
