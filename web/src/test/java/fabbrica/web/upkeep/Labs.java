package fabbrica.web.upkeep;

import fabbrica.web.platform.storage.DataFolder;
import fabbrica.web.platform.storage.Sha256;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Arrays;
import org.flywaydb.core.Flyway;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.jdbc.datasource.DriverManagerDataSource;

/** Small labs on disk, without a server. */
final class Labs {

    private Labs() {
    }

    /** A lab of that name with so many models of a megabyte each, all different from those of labs with other names. */
    static Path make(Path folder, String name, int models) throws IOException {
        return make(folder, name, models, "latest");
    }

    /** @param format as of which migration */
    static Path make(Path folder, String name, int models, String format) throws IOException {
        Files.createDirectories(DataFolder.files(folder));
        DriverManagerDataSource source = new DriverManagerDataSource("jdbc:sqlite:" + DataFolder.database(folder) + "?journal_mode=WAL");
        Flyway.configure().dataSource(source).target(format).load().migrate();
        JdbcClient jdbc = JdbcClient.create(source);
        boolean earlier = !format.equals("latest");
        jdbc.sql("insert into lab (id, name, currency, limit_mb%s) values (1, ?, 'EUR', 200%s)".formatted(earlier ? ", opens, closes" : "",
                earlier ? ", '09:00', '20:00'" : "")).params(name).update();
        jdbc.sql("insert into hand_over (id, name, token, created_at) values (1, 'all', 't', %s)".formatted(earlier
                ? "'2026-01-01T00:00:00Z'" : "1767225600000")).update();
        for (int i = 0; i < models; i++) {
            byte[] content = Arrays.copyOf((name + i).getBytes(), 1 << 20);
            Path file = DataFolder.files(folder).resolve("new");
            Files.write(file, content);
            String hash = Sha256.of(file);
            Files.move(file, DataFolder.files(folder).resolve(hash));
            jdbc.sql("insert into model (hand_over_id, name, sha256, bytes, format, declared_unit) values (1, ?, ?, ?, 'STL', 'mm')")
                    .params(name + i, hash, content.length).update();
        }
        return folder;
    }

    static void change(Path folder, String statement) {
        jdbc(folder).sql(statement).update();
    }

    static String name(Path folder) {
        return ask(folder, "select name from lab");
    }

    static String ask(Path folder, String question) {
        return jdbc(folder).sql(question).query(String.class).single();
    }

    private static JdbcClient jdbc(Path folder) {
        return JdbcClient.create(new DriverManagerDataSource("jdbc:sqlite:" + DataFolder.database(folder)));
    }
}
