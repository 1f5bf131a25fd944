package fabbrica.web.privacy;

import fabbrica.web.ticket.TicketState;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Optional;
import java.util.function.UnaryOperator;
import java.util.stream.Collectors;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Repository;

/** The SQL that knows where people's names, files and words stand. */
@Repository
class PrivacyRepository {

    /**
     * Where people write what they like.
     *
     * @param ticketColumn which ticket it belongs to; {@code null} when to none
     */
    private record Written(String table, String column, String ticketColumn) {
    }

    /** Of a run that is shared, any of theirs. */
    private static final String RUN_TICKET = "(select c.ticket_id from plate_copy c join ticket x on x.id = c.ticket_id where c.plate_id = run.plate_id and x.member_id = :member)";
    private static final List<Written> WRITTEN = List.of(new Written("remark", "text", "(select ticket_id from event where id = event_id)"),
            new Written("ticket", "source", "id"), new Written("ticket", "designer_notes", "id"),
            new Written("ticket", "material_wish", "id"), new Written("ticket", "colour_wish", "id"),
            new Written("run", "cause", RUN_TICKET), new Written("run", "note", RUN_TICKET), new Written("run_copy", "reason", "ticket_id"),
            new Written("spool_movement", "reason", "null"),
            new Written("enclosure", "text", "null"), new Written("sliced_file", "name", "ticket_id"), new Written("model", "name", "null"),
            new Written("hand_over", "name", "null"), new Written("ticket_group", "name", "null"), new Written("member", "note", "null"));
    private static final String OVER = Arrays.stream(TicketState.values()).filter(TicketState::isOver)
            .map(state -> "'" + state.name() + "'").collect(Collectors.joining(", "));

    private final JdbcClient jdbc;

    PrivacyRepository(JdbcClient jdbc) {
        this.jdbc = jdbc;
    }

    /** From here on in this transaction, what goes is overwritten on the disk. */
    void beginForgetting() {
        jdbc.sql("pragma secure_delete = on").query(Integer.class).single();
    }

    /** Writes what is committed into the database and empties the log, as far as nobody reads it. */
    void emptyLog() {
        jdbc.sql("pragma wal_checkpoint(truncate)").query((row, n) -> row.getInt(1)).single();
    }

    /** Whether a member who is known has the name, or a grown-up who answers for one. */
    boolean isKnown(String name) {
        return jdbc.sql("select exists (select 1 from member where name = :name collate nocase or grown_up = :name collate nocase)")
                .param("name", name).query(Boolean.class).single();
    }

    /** Rewrites what people wrote: on a member's tickets one way, everywhere else another. */
    void rewrite(long memberId, UnaryOperator<String> hers, UnaryOperator<String> elsewhere) {
        WRITTEN.forEach(written -> rewrite(written, memberId, hers, elsewhere));
    }

    private void rewrite(Written written, long memberId, UnaryOperator<String> hers, UnaryOperator<String> elsewhere) {
        record Change(long id, String text) {
        }
        List<Change> changes = new ArrayList<>();
        jdbc.sql("""
                select rowid as id, %2$s as text, coalesce(%3$s in (select id from ticket where member_id = :member), 0) as hers
                from %1$s where %2$s <> ''""".formatted(written.table, written.column, written.ticketColumn)).param("member", memberId)
                .query(row -> {
                    String text = row.getString("text");
                    String now = (row.getBoolean("hers") ? hers : elsewhere).apply(text);
                    if (!now.equals(text)) {
                        changes.add(new Change(row.getLong("id"), now));
                    }
                });
        for (Change change : changes) {
            jdbc.sql("update %s set %s = ? where rowid = ?".formatted(written.table, written.column)).params(change.text, change.id).update();
        }
    }

    /** Models that only a member's tickets come from, with what else was in their hand-overs and is nobody's. */
    List<Long> modelsOf(long memberId) {
        return jdbc.sql("""
                with hers as (select m.id, coalesce(m.revision_of, m.id) as original, m.hand_over_id
                        from ticket t join model m on m.id = t.model_id where t.member_id = :member),
                    others as (select m.id, coalesce(m.revision_of, m.id) as original, m.hand_over_id
                        from model m join ticket t on t.model_id = m.id
                        where m.hand_over_id in (select hand_over_id from hers) and t.member_id is not :member)
                select m.id from model m where m.hand_over_id in (select hand_over_id from hers) and (
                    m.id in (select id from hers)
                    or m.hand_over_id not in (select hand_over_id from others)
                    or coalesce(m.revision_of, m.id) in (select original from hers)
                        and coalesce(m.revision_of, m.id) not in (select original from others))""")
                .param("member", memberId).query(Long.class).list();
    }

    /** Models that are kept, of hand-overs on which nothing is to be done and nothing was done since a moment. */
    List<Long> modelsUntouchedSince(Instant moment) {
        return jdbc.sql("""
                select m.id from model m join hand_over h on h.id = m.hand_over_id
                where m.sha256 is not null and h.created_at < :moment and not exists (
                    select 1 from model o join ticket t on t.model_id = o.id where o.hand_over_id = h.id and (
                        t.state not in (%s) or exists (
                            select 1 from event e where e.ticket_id = t.id and e.at >= :moment)))""".formatted(OVER))
                .param("moment", moment.toEpochMilli()).query(Long.class).list();
    }

    /** @return the hash of the file that the model named, if any; so with all files below */
    List<String> dropModel(long id) {
        List<String> files = jdbc.sql("select sha256 from model where id = ? and sha256 is not null").params(id).query(String.class).list();
        jdbc.sql("update model set sha256 = null where id = ?").params(id).update();
        files.forEach(file -> jdbc.sql("delete from inspection where instr(lying, ?) > 0").params(file).update());
        return files;
    }

    /** What came in archives of which no model is kept any more. */
    List<String> dropEnclosures() {
        return jdbc.sql("delete from enclosure where hand_over_id not in (select hand_over_id from model where sha256 is not null) returning sha256")
                .query((row, n) -> Optional.ofNullable(row.getString("sha256"))).list().stream().flatMap(Optional::stream).toList();
    }

    /** Takes the names that models came with, and of hand-overs with no other models. */
    void dropName(long modelId) {
        jdbc.sql("update model set name = 'Former model ' || id where id = ?").params(modelId).update();
        jdbc.sql("""
                update hand_over set name = 'Former hand-over ' || id where id = (select hand_over_id from model where id = ?)
                and not exists (select 1 from model m where m.hand_over_id = hand_over.id and m.name <> 'Former model ' || m.id)""")
                .params(modelId).update();
    }

    List<String> dropSlicedFilesOf(long memberId) {
        return jdbc.sql("delete from sliced_file where ticket_id in (select id from ticket where member_id = ?) returning sha256")
                .params(memberId).query(String.class).list();
    }

    List<String> dropSlicedFilesUntouchedSince(Instant moment) {
        return jdbc.sql("""
                delete from sliced_file where taken_at < :moment and not exists (select 1 from ticket t where t.id = sliced_file.ticket_id
                    and (t.state not in (%s) or exists (select 1 from event e where e.ticket_id = t.id and e.at >= :moment)))
                returning sha256""".formatted(OVER)).param("moment", moment.toEpochMilli()).query(String.class).list();
    }

    List<String> dropPhotosOf(long memberId) {
        return dropPhotos(jdbc.sql("""
                select id from run where photo_sha256 is not null and plate_id in (
                    select c.plate_id from plate_copy c join ticket t on t.id = c.ticket_id where t.member_id = ?)""")
                .params(memberId).query(Long.class).list());
    }

    List<String> dropPhotosBefore(Instant moment) {
        return dropPhotos(jdbc.sql("select id from run where photo_sha256 is not null and ended_at < ?").params(moment.toEpochMilli())
                .query(Long.class).list());
    }

    private List<String> dropPhotos(List<Long> runs) {
        List<String> files = new ArrayList<>();
        for (long run : runs) {
            files.addAll(jdbc.sql("select photo_sha256 from run where id = ?").params(run).query(String.class).list());
            jdbc.sql("update run set photo_sha256 = null, photo_type = null where id = ?").params(run).update();
        }
        return files;
    }

    /** Members who are known, for whom nothing is to be done and nothing was done since a moment. */
    List<Long> membersUnseenSince(Instant moment) {
        return jdbc.sql("""
                select id from member where forgotten_at is null and since < :moment and not exists (
                    select 1 from ticket t where t.member_id = member.id and (t.state not in (%s) or exists (
                        select 1 from event e where e.ticket_id = t.id and e.at >= :moment)))""".formatted(OVER))
                .param("moment", moment.toEpochMilli()).query(Long.class).list();
    }
}
