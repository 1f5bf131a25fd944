package fabbrica.web.counter;

import fabbrica.core.mesh.io.ModelArchive;
import fabbrica.web.platform.storage.FileStore;
import fabbrica.web.ticket.Enclosure;
import java.io.ByteArrayInputStream;
import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.io.OutputStream;
import java.nio.charset.StandardCharsets;
import java.util.Arrays;
import java.util.Map;
import java.util.Optional;

/** A note or a picture on its way out of an archive; what is larger than such things are is left behind. */
final class Enclosing {

    private static final int LARGEST_NOTE = 100_000;
    private static final int LARGEST_PICTURE = 10 << 20;
    /** How files of each kind begin: PNG and JPEG by their specifications, WebP in a RIFF container. */
    private static final Map<String, byte[]> BEGIN = Map.of("image/png", new byte[] {(byte) 0x89, 'P', 'N', 'G'},
            "image/jpeg", new byte[] {(byte) 0xFF, (byte) 0xD8, (byte) 0xFF}, "image/webp", new byte[] {'R', 'I', 'F', 'F'});

    private final String name;
    private final ByteArrayOutputStream content = new ByteArrayOutputStream();
    private final int most;
    private boolean tooLarge;

    Enclosing(String name) {
        this.name = name;
        this.most = ModelArchive.isPicture(name) ? LARGEST_PICTURE : LARGEST_NOTE;
    }

    OutputStream stream() {
        return new OutputStream() {
            @Override
            public void write(int b) {
                write(new byte[] {(byte) b}, 0, 1);
            }

            @Override
            public void write(byte[] bytes, int from, int length) {
                tooLarge |= content.size() + length > most;
                if (!tooLarge) {
                    content.write(bytes, from, length);
                }
            }
        };
    }

    /** Nothing when it is too large, empty, or no picture though it is named like one. */
    Optional<Enclosure> kept(FileStore.Batch batch) throws IOException {
        byte[] bytes = content.toByteArray();
        if (tooLarge || bytes.length == 0) {
            return Optional.empty();
        }
        if (!ModelArchive.isPicture(name)) {
            return Optional.of(Enclosure.note(name, new String(bytes, StandardCharsets.UTF_8).replace("\u0000", "").strip()));
        }
        Optional<String> type = BEGIN.entrySet().stream().filter(begin -> bytes.length > begin.getValue().length
                && Arrays.equals(bytes, 0, begin.getValue().length, begin.getValue(), 0, begin.getValue().length)).map(Map.Entry::getKey).findFirst();
        return type.isEmpty() ? Optional.empty() : Optional.of(Enclosure.picture(name, batch.store(new ByteArrayInputStream(bytes)).sha256(), type.get()));
    }
}
