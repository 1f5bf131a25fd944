package fabbrica.web.platform;

import java.io.IOException;
import java.io.UncheckedIOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Comparator;
import java.util.stream.Stream;
import org.springframework.core.env.Environment;

/** The folder that holds the database and all files; the demo's is made anew at every start. */
public final class DataFolder {

    /** Only a folder that carries this mark is ever emptied. */
    private static final String DEMO_MARK = ".demo";

    private DataFolder() {
    }

    public static Path of(Environment environment) {
        return Path.of(environment.getRequiredProperty("fabbrica.data"));
    }

    public static void prepare(Environment environment) {
        Path folder = of(environment);
        try {
            if (environment.getProperty("fabbrica.demo", Boolean.class, false)) {
                emptyDemo(folder);
                Files.createDirectories(folder);
                Files.writeString(folder.resolve(DEMO_MARK), "Emptied at every start of the demo.\n");
            }
            Files.createDirectories(folder);
        } catch (IOException e) {
            throw new UncheckedIOException(e);
        }
    }

    private static void emptyDemo(Path folder) throws IOException {
        if (!Files.exists(folder)) {
            return;
        }
        if (!Files.exists(folder.resolve(DEMO_MARK))) {
            try (Stream<Path> content = Files.list(folder)) {
                if (content.findAny().isPresent()) {
                    throw new IllegalStateException("The folder %s is not a demo's: nothing in it was touched. "
                            + "Choose another with FABBRICA_DATA.".formatted(folder));
                }
            }
        }
        try (Stream<Path> content = Files.walk(folder)) {
            for (Path path : content.sorted(Comparator.reverseOrder()).toList()) {
                Files.delete(path);
            }
        }
    }
}
