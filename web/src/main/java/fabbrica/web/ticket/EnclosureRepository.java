package fabbrica.web.ticket;

import java.sql.ResultSet;
import java.sql.SQLException;
import java.util.Arrays;
import java.util.List;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Repository;

/** The SQL of what came with models in their archives. */
@Repository
class EnclosureRepository {

    private final JdbcClient jdbc;

    EnclosureRepository(JdbcClient jdbc) {
        this.jdbc = jdbc;
    }

    void insert(long handOver, Enclosure enclosure) {
        jdbc.sql("insert into enclosure (hand_over_id, name, text, sha256, type) values (?, ?, ?, ?, ?)")
                .params(Arrays.asList(handOver, enclosure.name(), enclosure.text(), enclosure.sha256(), enclosure.type())).update();
    }

    List<Enclosure> ofHandOver(long handOver) {
        return jdbc.sql("select * from enclosure where hand_over_id = ? order by id").params(handOver).query(EnclosureRepository::read).list();
    }

    List<Enclosure> ofModel(long model) {
        return jdbc.sql("select * from enclosure where hand_over_id = (select hand_over_id from model where id = ?) order by id").params(model)
                .query(EnclosureRepository::read).list();
    }

    private static Enclosure read(ResultSet row, int number) throws SQLException {
        return new Enclosure(row.getLong("id"), row.getString("name"), row.getString("text"), row.getString("sha256"), row.getString("type"));
    }
}
