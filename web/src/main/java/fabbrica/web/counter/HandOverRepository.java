package fabbrica.web.counter;

import fabbrica.core.mesh.model.Rotation;
import fabbrica.core.recipe.Part;
import fabbrica.core.units.LengthUnit;
import fabbrica.web.counter.HandOver.Piece;
import fabbrica.web.platform.storage.Columns;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Repository;

/** The SQL of hand-overs and the models in them. */
@Repository
class HandOverRepository {

    private final JdbcClient jdbc;

    HandOverRepository(JdbcClient jdbc) {
        this.jdbc = jdbc;
    }

    Optional<Long> withToken(String token) {
        return jdbc.sql("select id from hand_over where token = ?").params(token).query(Long.class).optional();
    }

    long insert(String name, String token, Instant at) {
        return jdbc.sql("insert into hand_over (name, token, created_at) values (?, ?, ?) returning id")
                .params(name, token, at.toEpochMilli()).query(Long.class).single();
    }

    long insert(long handOverId, ReadFile file) {
        return jdbc.sql("""
                insert into model (hand_over_id, name, sha256, bytes, format, problem, declared_unit)
                values (?, ?, ?, ?, ?, ?, ?) returning id""")
                .params(Arrays.asList(handOverId, file.name(), file.stored().sha256(), file.stored().bytes(),
                        file.format() == null ? "" : file.format().name(), file.problem(), file.unit().symbol()))
                .query(Long.class).single();
    }

    Optional<HandOver> handOver(long id) {
        return withPieces(jdbc.sql("select * from hand_over where id = ?").params(id).query(HandOverRepository::readHandOver).list()).stream()
                .findFirst();
    }

    /** Hand-overs with models that can be read and have no ticket yet. */
    List<HandOver> unsorted() {
        return withPieces(jdbc.sql("""
                select * from hand_over where id in (select m.hand_over_id from model m
                    where m.problem is null and m.revision_of is null and m.sha256 is not null
                    and not exists (select 1 from ticket t where t.model_id = m.id)
                    and not exists (select 1 from model r join ticket t on t.model_id = r.id where r.revision_of = m.id))
                order by id desc""").query(HandOverRepository::readHandOver).list());
    }

    private static HandOver readHandOver(ResultSet row, int number) throws SQLException {
        return new HandOver(row.getLong("id"), row.getString("name"), Columns.instant(row, "created_at"),
                List.of());
    }

    private List<HandOver> withPieces(List<HandOver> handOvers) {
        if (handOvers.isEmpty()) {
            return handOvers;
        }
        Map<Long, List<Piece>> pieces = new HashMap<>();
        jdbc.sql("""
                select m.*, (select min(t.id) from ticket t
                    where t.model_id in (select m.id union all select r.id from model r where r.revision_of = m.id)) as ticket_id
                from model m where m.hand_over_id in (:ids) and m.revision_of is null order by m.id""")
                .param("ids", handOvers.stream().map(HandOver::id).toList()).query(row -> {
                    pieces.computeIfAbsent(row.getLong("hand_over_id"), id -> new ArrayList<>()).add(readPiece(row));
                });
        return handOvers.stream().map(handOver -> handOver.with(pieces.getOrDefault(handOver.id(), List.of()))).toList();
    }

    private static Piece readPiece(ResultSet row) throws SQLException {
        long ticket = row.getLong("ticket_id");
        LengthUnit unit = LengthUnit.ofSymbol(row.getString("declared_unit")).orElseThrow();
        return new Piece(row.getLong("id"), row.getString("name"), row.getString("problem"),
                row.getString("sha256") == null ? null : new Part(row.getString("sha256"), unit.millimetres(), Rotation.NONE), unit,
                ticket == 0 ? null : ticket);
    }
}
