package fabbrica.web.ticket;

import static fabbrica.web.platform.storage.Columns.instant;
import static fabbrica.web.platform.storage.Columns.instantOrNull;
import static fabbrica.web.platform.storage.Columns.longOrNull;
import static fabbrica.web.platform.storage.Columns.millis;

import fabbrica.core.mesh.io.ModelFormat;
import fabbrica.core.mesh.model.Rotation;
import fabbrica.core.units.LengthUnit;
import fabbrica.core.units.Money;
import fabbrica.web.ticket.Ticket.Request;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.Collection;
import java.util.Collections;
import java.util.Currency;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Repository;
import tools.jackson.databind.ObjectMapper;

/** The SQL of tickets, their history and their runs. */
@Repository
class TicketRepository {

    private static final String TICKETS = """
            select t.*, m.name as model_name, m.sha256, m.bytes, m.format, m.revision_of, m.made_by, n.printer_id as planned_on,
                exists (select 1 from enclosure e where e.hand_over_id = m.hand_over_id) as accompanied,
                c.currency, c.price_minor, c.asked_minor, c.agreed_minor, c.paid_at, c.receipt
            from ticket t join model m on m.id = t.model_id left join plan n on n.id = t.plan_id left join charge c on c.ticket_id = t.id""";

    /** One of those that are not mistaken for one another. */
    private static final String LETTER = "substr('ABCDEFGHJKLMNPQRSTUVWXYZ23456789', abs(random()) % 32 + 1, 1)";
    private static final int CODE_LENGTH = 4;

    private final JdbcClient jdbc;
    private final ObjectMapper json;

    TicketRepository(JdbcClient jdbc, ObjectMapper json) {
        this.jdbc = jdbc;
        this.json = json;
    }

    long insert(long modelId, LengthUnit unit, Instant at) {
        return jdbc.sql("""
                insert into ticket (model_id, state, unit, created_at, collect_code) values (?, ?, ?, ?, %s) returning id""".formatted(
                        Collections.nCopies(CODE_LENGTH, LETTER).stream().collect(Collectors.joining(" || "))))
                .params(modelId, TicketState.NEW.name(), unit.symbol(), at.toEpochMilli()).query(Long.class).single();
    }

    Map<Long, String> collectCodes(Collection<Long> ids) {
        Map<Long, String> codes = new HashMap<>();
        jdbc.sql("select id, collect_code from ticket where id in (:ids)").param("ids", ids).query(row -> {
            codes.put(row.getLong("id"), row.getString("collect_code"));
        });
        return codes;
    }

    Optional<Long> ofModel(long modelId) {
        return jdbc.sql("select id from ticket where model_id = ?").params(modelId).query(Long.class).optional();
    }

    Optional<Ticket> ticket(long id) {
        return jdbc.sql(TICKETS + " where t.id = ?").params(id).query(this::readTicket).optional();
    }

    List<Ticket> tickets(Collection<Long> ids) {
        return jdbc.sql(TICKETS + " where t.id in (:ids) order by t.id").param("ids", ids).query(this::readTicket).list();
    }

    List<Ticket> inStates(List<TicketState> states) {
        return jdbc.sql(TICKETS + " where t.state in (:states) order by t.created_at, t.id")
                .param("states", states.stream().map(Enum::name).toList()).query(this::readTicket).list();
    }

    /**
     * Tickets in some states, the latest first.
     *
     * @param before only those that were handed over before this one; null for the latest
     */
    List<Ticket> latest(List<TicketState> states, @Nullable Long before, int most) {
        // Chosen from the index alone, and only then read.
        return jdbc.sql(TICKETS + " where t.id in (select id from ticket where state in (:states)" + (before == null ? ""
                        : " and (created_at, id) < (select created_at, id from ticket where id = :before)")
                        + " order by created_at desc, id desc limit :most) order by t.created_at desc, t.id desc")
                .param("states", states.stream().map(Enum::name).toList()).param("before", before).param("most", most)
                .query(this::readTicket).list();
    }

    /** Tickets of which every word is in the name of the model or of the member, or is the number or the code to collect by; the latest first. */
    List<Ticket> search(List<String> words, int most) {
        StringBuilder where = new StringBuilder();
        List<Object> values = new ArrayList<>();
        for (String word : words) {
            where.append(where.isEmpty() ? " where" : " and").append("""
                     (cast(t.id as text) = ? or t.collect_code = upper(?) or t.model_id in (select id from model where instr(lower(name), ?) > 0)
                    or t.member_id in (select id from member where instr(lower(name), ?) > 0))""");
            values.addAll(List.of(word, word, word, word));
        }
        values.add(most);
        return jdbc.sql(TICKETS + where + " order by t.id desc limit ?").params(values).query(this::readTicket).list();
    }

    /** Tickets whose model came as one of some files, though it may have been mended since; the latest first, by the file's hash. */
    Map<String, List<Long>> withFiles(Collection<String> hashes) {
        Map<String, List<Long>> tickets = new HashMap<>();
        jdbc.sql("""
                select o.sha256, t.id from model o join model m on m.id = o.id or m.revision_of = o.id join ticket t on t.model_id = m.id
                where o.sha256 in (:hashes) order by t.id desc""").param("hashes", hashes)
                .query(row -> {
                    tickets.computeIfAbsent(row.getString("sha256"), hash -> new ArrayList<>()).add(row.getLong("id"));
                });
        return tickets;
    }

    List<Ticket> ofMember(long memberId) {
        return jdbc.sql(TICKETS + " where t.member_id = ? order by t.id desc").params(memberId).query(this::readTicket)
                .list();
    }

    void saveRequest(long id, Request request) {
        jdbc.sql("""
                update ticket set member_id = ?, purpose = ?, needed_by = ?, material_wish = ?, colour_wish = ?,
                    quantity = ?, source = ?, designer_notes = ? where id = ?""")
                .params(Arrays.asList(request.memberId(), request.purpose() == null ? null : request.purpose().name(),
                        millis(request.neededBy()), request.materialWish(), request.colourWish(), request.quantity(),
                        request.source(), request.designerNotes(), id)).update();
    }

    void saveSize(long id, LengthUnit unit, double scalePercent) {
        jdbc.sql("update ticket set unit = ?, scale_percent = ? where id = ?")
                .params(unit.symbol(), scalePercent, id).update();
    }

    void saveRotation(long id, Rotation rotation) {
        jdbc.sql("update ticket set rotation = ? where id = ?").params(json.writeValueAsString(rotation), id).update();
    }

    /** A model made from a ticket's; it belongs to the same hand-over and points at the model as it came. */
    long insertRevision(StoredModel of, Revision revision) {
        return jdbc.sql("""
                insert into model (hand_over_id, name, sha256, bytes, format, declared_unit, revision_of, made_by)
                select hand_over_id, ?, ?, ?, ?, declared_unit, coalesce(revision_of, id), ? from model where id = ?
                returning id""")
                .params(revision.name(), revision.sha256(), revision.bytes(), revision.format().name(),
                        revision.madeBy(), of.id()).query(Long.class).single();
    }

    List<StoredModel> models(Collection<Long> ids) {
        return ids.isEmpty() ? List.of() : jdbc.sql("select id as model_id, name as model_name, 0 as accompanied, * from model where id in (:ids)").param("ids", ids)
                .query(TicketRepository::readModel).list();
    }

    void saveModel(long id, long modelId) {
        jdbc.sql("update ticket set model_id = ? where id = ?").params(modelId, id).update();
    }

    /** Tickets whose model came from the same place, and how many of them had a copy that failed. */
    Experience experience(String source, long exceptTicket) {
        return jdbc.sql("""
                select count(*) as files, coalesce(sum(exists (select 1 from run_copy c where c.ticket_id = t.id)), 0) as printed,
                    coalesce(sum(exists (select 1 from run_copy c where c.ticket_id = t.id and c.outcome = 'FAILED')), 0) as failed
                from ticket t where t.source <> '' and lower(trim(t.source)) = lower(trim(?)) and t.id <> ?""").params(source, exceptTicket)
                .query((row, n) -> new Experience(row.getInt("files"), row.getInt("printed"), row.getInt("failed")))
                .single();
    }

    void saveShelf(long id, String place) {
        jdbc.sql("update ticket set shelf = ? where id = ?").params(place, id).update();
    }

    void savePlan(long id, long planId) {
        jdbc.sql("update ticket set plan_id = ? where id = ?").params(planId, id).update();
    }

    /** Moves a ticket on, if it still is where it was seen last; tells whether it was. */
    boolean move(long id, TicketState from, TicketState to) {
        return jdbc.sql("update ticket set state = ? where id = ? and state = ?")
                .params(to.name(), id, from.name()).update() == 1;
    }

    private Ticket readTicket(ResultSet row, int number) throws SQLException {
        String purpose = row.getString("purpose");
        return new Ticket(row.getLong("id"), readModel(row, number),
                TicketState.valueOf(row.getString("state")),
                new Request(longOrNull(row, "member_id"), purpose == null ? null : Purpose.valueOf(purpose),
                        instantOrNull(row, "needed_by"), row.getString("material_wish"),
                        row.getString("colour_wish"), row.getInt("quantity"), row.getString("source"),
                        row.getString("designer_notes")),
                LengthUnit.ofSymbol(row.getString("unit")).orElseThrow(), row.getDouble("scale_percent"),
                json.readValue(row.getString("rotation"), Rotation.class), longOrNull(row, "plan_id"), row.getString("planned_on"),
                instant(row, "created_at"), readCharge(row), row.getString("shelf"));
    }

    private static Charge readCharge(ResultSet row) throws SQLException {
        String currency = row.getString("currency");
        return currency == null ? Charge.NONE : new Charge(money(row, "price_minor", currency), money(row, "asked_minor", currency), money(row, "agreed_minor", currency),
                instantOrNull(row, "paid_at"), longOrNull(row, "receipt"));
    }

    private static @Nullable Money money(ResultSet row, String column, String currency) throws SQLException {
        Long coins = longOrNull(row, column);
        return coins == null ? null : Money.ofCoins(coins, Currency.getInstance(currency));
    }

    private static StoredModel readModel(ResultSet row, int number) throws SQLException {
        long original = row.getLong("revision_of");
        return new StoredModel(row.getLong("model_id"), row.getString("model_name"), row.getString("sha256"),
                row.getLong("bytes"), ModelFormat.valueOf(row.getString("format")), original == 0 ? null : original,
                row.getString("made_by"), row.getBoolean("accompanied"));
    }
}
