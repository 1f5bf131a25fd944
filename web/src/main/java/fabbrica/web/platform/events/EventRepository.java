package fabbrica.web.platform.events;

import static fabbrica.web.platform.storage.Columns.instant;
import static fabbrica.web.platform.storage.Columns.instantOrNull;
import static fabbrica.web.platform.storage.Columns.longOrNull;

import java.sql.ResultSet;
import java.sql.SQLException;
import java.time.Instant;
import java.util.Arrays;
import java.util.Collection;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.stream.Collectors;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Repository;
import tools.jackson.databind.ObjectMapper;

/** The SQL of the log and of the outbox. */
@Repository
class EventRepository {

    private static final Map<String, Class<?>> KINDS = Arrays.stream(Fact.class.getPermittedSubclasses())
            .collect(Collectors.toMap(Fact::kind, fact -> fact));
    private static final String COLUMNS = """
            select e.*, coalesce(a.username, '') as username, coalesce(p.name, e.printer_id, '') as printer_name,
                coalesce(s.number, e.spool_id, '') as spool_number, coalesce(r.text, '') as remark""";
    private static final String FROM = """
             from event e left join account a on a.id = e.by_account left join printer p on p.id = e.printer_id
            left join spool s on s.id = e.spool_id left join remark r on r.event_id = e.id""";
    private static final String EVENTS = COLUMNS + FROM;
    private static final String TOLD = COLUMNS + ", o.delivered_at, o.channel, o.tries" + FROM + " join outbox o on o.event_id = e.id";

    private final JdbcClient jdbc;
    private final ObjectMapper json;

    EventRepository(JdbcClient jdbc, ObjectMapper json) {
        this.jdbc = jdbc;
        this.json = json;
    }

    long insert(Instant at, String who, About about, Fact fact) {
        return jdbc.sql("""
                insert into event (at, by_account, kind, ticket_id, run_id, plate_id, spool_id, nozzle_id, printer_id,
                    member_id, account_id, facts)
                values (?, (select id from account where username = ? collate nocase), ?, ?, ?, ?, ?, ?, ?, ?, ?, ?) returning id""")
                .params(Arrays.asList(at.toEpochMilli(), who, fact.kind(), about.ticket(), about.run(), about.plate(), about.spool(), about.nozzle(),
                        about.printer(), about.member(), about.account(), json.writeValueAsString(fact))).query(Long.class).single();
    }

    void insertRemark(long event, String text) {
        jdbc.sql("insert into remark (event_id, text) values (?, ?)").params(event, text).update();
    }

    void insertIntoOutbox(long event) {
        jdbc.sql("insert into outbox (event_id) values (?)").params(event).update();
    }

    List<Event> ofTickets(Collection<Long> ids) {
        return jdbc.sql(EVENTS + " where e.ticket_id in (:ids) order by e.id").param("ids", ids).query(this::read).list();
    }

    /** Of each ticket its latest. */
    List<Event> latestOfTickets(Collection<Long> ids) {
        return jdbc.sql(EVENTS + " where e.id in (select max(id) from event where ticket_id in (:ids) group by ticket_id)").param("ids", ids)
                .query(this::read).list();
    }

    List<Event> ofSpool(long id, int most) {
        return jdbc.sql(EVENTS + " where e.spool_id = ? order by e.id desc limit ?").params(id, most).query(this::read).list();
    }

    List<Event> ofPrinter(String id, int most) {
        return jdbc.sql(EVENTS + " where e.printer_id = ? order by e.id desc limit ?").params(id, most).query(this::read).list();
    }

    List<Event> due(Instant now, int most) {
        return jdbc.sql(TOLD + " where o.delivered_at is null and o.next_at <= ? order by e.id limit ?")
                .params(now.toEpochMilli(), most).query(this::read).list();
    }

    void delivered(long event, Instant at, Outbox.Way way) {
        jdbc.sql("update outbox set delivered_at = ?, channel = ? where event_id = ?").params(at.toEpochMilli(), way.name(), event).update();
    }

    /** @return how often it was tried by now */
    int failed(long event) {
        return jdbc.sql("update outbox set tries = tries + 1 where event_id = ? returning tries").params(event).query(Integer.class).single();
    }

    void tryAgain(long event, Instant at) {
        jdbc.sql("update outbox set next_at = ? where event_id = ?").params(at.toEpochMilli(), event).update();
    }

    List<Outbox.Told> told(int most) {
        return jdbc.sql(TOLD + " order by e.id desc limit ?").params(most).query(this::readTold).list();
    }

    List<Outbox.Told> toldOf(Collection<Long> tickets) {
        return tickets.isEmpty() ? List.of() : jdbc.sql(TOLD + " where e.ticket_id in (:tickets) order by e.id desc").param("tickets", tickets)
                .query(this::readTold).list();
    }

    private Outbox.Told readTold(ResultSet row, int number) throws SQLException {
        String way = row.getString("channel");
        return new Outbox.Told(read(row, number), instantOrNull(row, "delivered_at"), way.isEmpty() ? null : Outbox.Way.valueOf(way), row.getInt("tries"));
    }

    List<Event> by(String who) {
        return jdbc.sql(EVENTS + " where e.by_account = (select id from account where username = ? collate nocase) order by e.id")
                .params(who).query(this::read).list();
    }

    private Event read(ResultSet row, int number) throws SQLException {
        Class<?> kind = Objects.requireNonNull(KINDS.get(row.getString("kind")), row.getString("kind"));
        About about = new About(longOrNull(row, "ticket_id"), longOrNull(row, "run_id"), longOrNull(row, "plate_id"),
                longOrNull(row, "spool_id"),
                longOrNull(row, "nozzle_id"), row.getString("printer_id"), longOrNull(row, "member_id"),
                longOrNull(row, "account_id"));
        return new Event(row.getLong("id"), instant(row, "at"), row.getString("username"), about, row.getString("printer_name"),
                row.getString("spool_number"), (Fact) json.readValue(row.getString("facts"), kind), row.getString("remark"));
    }
}
