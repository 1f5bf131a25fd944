package fabbrica.core.mesh.io;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.io.OutputStream;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.zip.ZipEntry;
import java.util.zip.ZipOutputStream;
import org.junit.jupiter.api.Test;

class ModelArchiveTest {

    private final List<ByteArrayOutputStream> unpacked = new ArrayList<>();

    @Test
    void models_are_taken_out_and_everything_else_is_left() throws IOException {
        byte[] zip = zip("notes/readme.txt", "print slowly", "part.STL", "model one", "photo.png", "…",
                "deep/er/second.stl", "model two", "._part.stl", "hidden twin");
        assertThat(unpack(zip, 1000)).containsExactly("part.STL", "second.stl");
        assertThat(unpacked.get(1).toString(StandardCharsets.UTF_8)).isEqualTo("model two");
    }

    @Test
    void notes_a_licence_and_pictures_are_handed_over_beside_the_models() throws IOException {
        List<String> beside = new ArrayList<>();
        byte[] zip = zip("notes/README", "print slowly", "part.stl", "model", "photo.JPG", "…", "LICENSE.txt", "share alike", "._photo.jpg", "twin", "run.exe", "no", "page.html", "no");
        ModelArchive.unpack(ModelSource.of("a.zip", zip), 1000, name -> OutputStream.nullOutputStream(), name -> {
            beside.add(name);
            return OutputStream.nullOutputStream();
        });
        assertThat(beside).containsExactly("README", "photo.JPG", "LICENSE.txt");
        assertThat(beside).filteredOn(ModelArchive::isPicture).containsExactly("photo.JPG");
    }

    @Test
    void names_that_climb_out_of_their_folder_lose_their_folders() throws IOException {
        assertThat(unpack(zip("../../etc/evil.stl", "a", "C:\\temp\\..\\worse.stl", "b", "/opt/abs.stl", "c"), 1000))
                .containsExactly("evil.stl", "worse.stl", "abs.stl");
    }

    @Test
    void models_of_one_name_stay_apart() throws IOException {
        assertThat(unpack(zip("a/part.stl", "a", "b/part.stl", "b"), 1000))
                .containsExactly("part.stl", "part (2).stl");
    }

    @Test
    void an_archive_that_swells_is_refused_while_it_is_read() throws IOException {
        byte[] bomb = zip("zeros.stl", "0".repeat(5_000_000));
        assertThat(bomb.length).isLessThan(20_000);
        assertThatThrownBy(() -> unpack(bomb, 1_048_576))
                .hasMessage("The archive unpacks to more than the limit of 1 MB.");
        assertThat(unpacked.getFirst().size()).isLessThanOrEqualTo(1_048_576);
    }

    @Test
    void padding_beside_the_models_counts_too() throws IOException {
        assertThatThrownBy(() -> unpack(zip("fill.bin", "0".repeat(2_000_000), "part.stl", "x"), 1_048_576))
                .hasMessageContaining("more than the limit");
    }

    @Test
    void an_archive_without_a_model_says_what_it_holds() throws IOException {
        assertThatThrownBy(() -> unpack(zip("a.txt", "1", "b.png", "2"), 1000))
                .hasMessage("The ZIP archive holds 2 files, none of them a model (STL, OBJ, 3MF, PLY, AMF).");
    }

    @Test
    void damaged_archives_are_refused_with_a_sentence() throws IOException {
        byte[] whole = zip("part.stl", "some model that is long enough to be cut".repeat(50));
        assertThatThrownBy(() -> unpack(Arrays.copyOf(whole, whole.length / 4), 100_000))
                .isInstanceOf(ModelFormatException.class);
        assertThatThrownBy(() -> unpack(new byte[] {'P', 'K', 3, 4}, 1000)).isInstanceOf(ModelFormatException.class);
    }

    private List<String> unpack(byte[] zip, long limit) throws IOException {
        return ModelArchive.unpack(ModelSource.of("a.zip", zip), limit, name -> {
            unpacked.add(new ByteArrayOutputStream());
            return unpacked.getLast();
        });
    }

    private static byte[] zip(String... namesAndContents) throws IOException {
        ByteArrayOutputStream bytes = new ByteArrayOutputStream();
        try (ZipOutputStream zip = new ZipOutputStream(bytes)) {
            for (int i = 0; i < namesAndContents.length; i += 2) {
                zip.putNextEntry(new ZipEntry(namesAndContents[i]));
                zip.write(namesAndContents[i + 1].getBytes(StandardCharsets.UTF_8));
            }
        }
        return bytes.toByteArray();
    }
}
