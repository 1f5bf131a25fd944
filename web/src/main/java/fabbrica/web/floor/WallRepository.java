package fabbrica.web.floor;

import java.util.Optional;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Repository;

/** The SQL of the secret part of the screen's and the calendar's addresses. */
@Repository
class WallRepository {

    private final JdbcClient jdbc;

    WallRepository(JdbcClient jdbc) {
        this.jdbc = jdbc;
    }

    Optional<String> key() {
        return jdbc.sql("select key from wall").query(String.class).optional();
    }

    void save(String key) {
        jdbc.sql("insert into wall (id, key) values (1, ?) on conflict (id) do update set key = excluded.key").param(key).update();
    }
}
