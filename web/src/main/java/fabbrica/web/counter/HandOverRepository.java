package fabbrica.web.counter;

import fabbrica.core.inspect.Inspection;
import fabbrica.web.counter.HandOver.Piece;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.time.Instant;
import java.util.List;
import java.util.Optional;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Repository;
import tools.jackson.databind.ObjectMapper;

/** The SQL of hand-overs and the models in them. */
@Repository
class HandOverRepository {

    private final JdbcClient jdbc;
    private final ObjectMapper json;

    HandOverRepository(JdbcClient jdbc, ObjectMapper json) {
        this.jdbc = jdbc;
        this.json = json;
    }

    Optional<Long> withToken(String token) {
        return jdbc.sql("select id from hand_over where token = ?").params(token).query(Long.class).optional();
    }

    long insert(String name, String token, Instant at) {
        return jdbc.sql("insert into hand_over (name, token, created_at) values (?, ?, ?) returning id")
                .params(name, token, at.toString()).query(Long.class).single();
    }

    long insert(long handOverId, InspectedFile file, String coreVersion) {
        return jdbc.sql("""
                insert into model (hand_over_id, name, sha256, bytes, format, problem, inspection, core_version)
                values (?, ?, ?, ?, ?, ?, ?, ?) returning id""")
                .params(handOverId, file.name(), file.stored().sha256(), file.stored().bytes(),
                        file.format() == null ? "" : file.format().name(), file.problem(),
                        file.inspection() == null ? null : json.writeValueAsString(file.inspection()), coreVersion)
                .query(Long.class).single();
    }

    boolean isUsed(String sha256) {
        return jdbc.sql("select count(*) from model where sha256 = ?").params(sha256).query(Integer.class)
                .single() > 0;
    }

    Optional<HandOver> handOver(long id) {
        return jdbc.sql("select * from hand_over where id = ?").params(id).query(this::readHandOver).optional();
    }

    /** Hand-overs with models that can be read and have no ticket yet. */
    List<HandOver> unsorted() {
        return jdbc.sql("""
                select * from hand_over h where exists (select 1 from model m left join ticket t on t.model_id = m.id
                    where m.hand_over_id = h.id and m.problem is null and t.id is null)
                order by h.id desc""").query(this::readHandOver).list();
    }

    private HandOver readHandOver(ResultSet row, int number) throws SQLException {
        List<Piece> pieces = jdbc.sql("""
                select m.*, t.id as ticket_id from model m left join ticket t on t.model_id = m.id
                where m.hand_over_id = ? order by m.id""").params(row.getLong("id")).query(this::readPiece).list();
        return new HandOver(row.getLong("id"), row.getString("name"), Instant.parse(row.getString("created_at")),
                pieces);
    }

    private Piece readPiece(ResultSet row, int number) throws SQLException {
        String inspection = row.getString("inspection");
        long ticket = row.getLong("ticket_id");
        return new Piece(row.getLong("id"), row.getString("name"), row.getString("problem"),
                inspection == null ? null : json.readValue(inspection, Inspection.class),
                ticket == 0 ? null : ticket);
    }
}
