package fabbrica.web.plan;

import fabbrica.web.platform.storage.Columns;
import fabbrica.web.platform.storage.FileStore.Stored;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.time.Instant;
import java.util.Collection;
import java.util.List;
import java.util.Optional;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Repository;

/** The SQL of sliced files. */
@Repository
class SlicedFileRepository {

    private final JdbcClient jdbc;

    SlicedFileRepository(JdbcClient jdbc) {
        this.jdbc = jdbc;
    }

    long insert(long ticketId, String name, Stored stored, String token, Instant at) {
        return jdbc.sql("""
                insert into sliced_file (ticket_id, name, sha256, bytes, token, taken_at) values (?, ?, ?, ?, ?, ?)
                returning id""").params(ticketId, name, stored.sha256(), stored.bytes(), token, at.toEpochMilli())
                .query(Long.class).single();
    }

    Optional<SlicedFile> withToken(String token) {
        return jdbc.sql("select * from sliced_file where token = ?").params(token).query(SlicedFileRepository::read).optional();
    }

    List<SlicedFile> ofTickets(Collection<Long> tickets) {
        return tickets.isEmpty() ? List.of() : jdbc.sql("select * from sliced_file where ticket_id in (:tickets) order by id desc")
                .param("tickets", tickets).query(SlicedFileRepository::read).list();
    }

    Optional<SlicedFile> find(long id) {
        return jdbc.sql("select * from sliced_file where id = ?").params(id).query(SlicedFileRepository::read).optional();
    }

    private static SlicedFile read(ResultSet row, int number) throws SQLException {
        return new SlicedFile(row.getLong("id"), row.getLong("ticket_id"), row.getString("name"),
                row.getString("sha256"), row.getLong("bytes"), Columns.instant(row, "taken_at"));
    }
}
