package fabbrica.web.floor;

import static fabbrica.web.platform.storage.Columns.instant;

import fabbrica.core.schedule.Schedule.Slot;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.time.Instant;
import java.util.Collection;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Repository;
import tools.jackson.core.type.TypeReference;
import tools.jackson.databind.ObjectMapper;

/** The SQL of floor plans: drafts, what was published, and what members were promised by it. */
@Repository
class FloorPlanRepository {

    private static final TypeReference<List<Placed>> PLACED = new TypeReference<>() { };

    private final JdbcClient jdbc;
    private final ObjectMapper json;

    FloorPlanRepository(JdbcClient jdbc, ObjectMapper json) {
        this.jdbc = jdbc;
        this.json = json;
    }

    Optional<Draft> draft() {
        return jdbc.sql("select * from draft order by id desc limit 1").query(this::read).optional();
    }

    /** 0 when there is none. */
    long draftId() {
        return jdbc.sql("select coalesce(max(id), 0) from draft").query(Long.class).single();
    }

    void insert(List<Placed> placed, String what, String who, Instant at) {
        jdbc.sql("insert into draft (made_at, made_by, what, placed) values (?, ?, ?, ?)").params(at.toEpochMilli(), who, what, json.writeValueAsString(placed)).update();
    }

    void replace(long id, List<Placed> placed) {
        jdbc.sql("update draft set placed = ? where id = ?").params(json.writeValueAsString(placed), id).update();
    }

    void deleteDraft(long id) {
        jdbc.sql("delete from draft where id = ?").param(id).update();
    }

    void deleteDrafts() {
        jdbc.sql("delete from draft").update();
    }

    Optional<Publication> publication() {
        return jdbc.sql("select * from publication order by id desc limit 1").query((row, number) -> new Publication(row.getLong("id"), instant(row, "published_at"),
                row.getString("published_by"), row.getString("what"))).optional();
    }

    void publish(String what, String who, Instant at) {
        jdbc.sql("insert into publication (published_at, published_by, what) values (?, ?, ?)").params(at.toEpochMilli(), who, what).update();
    }

    void saveSlot(Slot slot, boolean pinned) {
        jdbc.sql("""
                insert into slot (plate_id, printer_id, start_at, end_at, hand_out_at, pinned) values (?, ?, ?, ?, ?, ?)
                on conflict (plate_id) do update set printer_id = excluded.printer_id, start_at = excluded.start_at, end_at = excluded.end_at,
                    hand_out_at = excluded.hand_out_at, pinned = excluded.pinned""")
                .params(slot.plate(), slot.machine(), slot.start().toEpochMilli(), slot.end().toEpochMilli(), slot.handOut().toEpochMilli(), pinned ? 1 : 0).update();
    }

    void deleteSlot(long plate) {
        jdbc.sql("delete from slot where plate_id = ?").param(plate).update();
    }

    /** By when tickets can be collected, as their members were told last. */
    Map<Long, Instant> promised(Collection<Long> tickets) {
        Map<Long, Instant> promised = new HashMap<>();
        if (!tickets.isEmpty()) {
            jdbc.sql("select * from promised where ticket_id in (:tickets)").param("tickets", tickets)
                    .query(row -> {
                        promised.put(row.getLong("ticket_id"), instant(row, "collect_at"));
                    });
        }
        return promised;
    }

    void savePromised(long ticket, Instant collect) {
        jdbc.sql("insert into promised (ticket_id, collect_at) values (?, ?) on conflict (ticket_id) do update set collect_at = excluded.collect_at")
                .params(ticket, collect.toEpochMilli()).update();
    }

    private Draft read(ResultSet row, int number) throws SQLException {
        return new Draft(row.getLong("id"), instant(row, "made_at"), row.getString("made_by"), row.getString("what"), json.readValue(row.getString("placed"), PLACED));
    }
}
