package fabbrica.web.ticket;

import static fabbrica.web.platform.storage.Columns.doubleOrNull;
import static fabbrica.web.platform.storage.Columns.instant;
import static fabbrica.web.platform.storage.Columns.instantOrNull;
import static fabbrica.web.platform.storage.Columns.longOrNull;
import static fabbrica.web.platform.storage.Columns.millis;

import fabbrica.core.estimate.Tariff.Used;
import fabbrica.core.mesh.io.ModelFormat;
import fabbrica.core.mesh.model.Rotation;
import fabbrica.core.recipe.Recipe;
import fabbrica.core.recipe.StartingPoint;
import fabbrica.core.run.Defect;
import fabbrica.core.run.Deviation;
import fabbrica.core.units.LengthUnit;
import fabbrica.core.units.Money;
import fabbrica.web.ticket.Ticket.Request;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.Currency;
import java.util.HashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.function.Consumer;
import java.util.stream.Stream;
import org.jspecify.annotations.Nullable;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Repository;
import tools.jackson.databind.ObjectMapper;

/** The SQL of tickets, their history and their runs. */
@Repository
class TicketRepository {

    private static final String TICKETS = """
            select t.*, m.name as model_name, m.sha256, m.bytes, m.format, m.revision_of, m.made_by
            from ticket t join model m on m.id = t.model_id""";
    private static final String NAMED = " join ticket t on t.id = r.ticket_id join model m on m.id = t.model_id left join member p on p.id = t.member_id";
    private static final String RUNS = """
            select r.*, coalesce(a.username, '') as starter, m.name as model_name, coalesce(p.name, '') as member_name, pr.name as printer_name,
                ma.name || ', ' || s.colour as spool_name,
                (select group_concat(code) from (select code from run_defect d where d.run_id = r.id order by code))
                    as defects
            from run r""" + NAMED + """
             join printer pr on pr.id = r.printer_id join spool s on s.id = r.spool_id join material ma on ma.id = s.material_id
            left join account a on a.id = r.started_by""";

    private final JdbcClient jdbc;
    private final ObjectMapper json;

    TicketRepository(JdbcClient jdbc, ObjectMapper json) {
        this.jdbc = jdbc;
        this.json = json;
    }

    long insert(long modelId, LengthUnit unit, Instant at) {
        return jdbc.sql("""
                insert into ticket (model_id, state, unit, created_at) values (?, ?, ?, ?) returning id""")
                .params(modelId, TicketState.NEW.name(), unit.symbol(), at.toEpochMilli()).query(Long.class).single();
    }

    Optional<Long> ofModel(long modelId) {
        return jdbc.sql("select id from ticket where model_id = ?").params(modelId).query(Long.class).optional();
    }

    Optional<Ticket> ticket(long id) {
        return jdbc.sql(TICKETS + " where t.id = ?").params(id).query(this::readTicket).optional();
    }

    List<Ticket> inStates(List<TicketState> states) {
        return jdbc.sql(TICKETS + " where t.state in (:states) order by coalesce(t.queued_at, t.created_at), t.id")
                .param("states", states.stream().map(Enum::name).toList()).query(this::readTicket).list();
    }

    List<Ticket> ofMember(long memberId) {
        return jdbc.sql(TICKETS + " where t.member_id = ? order by t.id desc").params(memberId).query(this::readTicket)
                .list();
    }

    void saveRequest(long id, Request request) {
        jdbc.sql("""
                update ticket set member_id = ?, purpose = ?, needed_by = ?, material_wish = ?, colour_wish = ?,
                    quantity = ?, source = ?, designer_notes = ? where id = ?""")
                .params(request.memberId(), request.purpose() == null ? null : request.purpose().name(),
                        millis(request.neededBy()), request.materialWish(), request.colourWish(), request.quantity(),
                        request.source(), request.designerNotes(), id).update();
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

    Optional<StoredModel> model(long id) {
        return jdbc.sql("select id as model_id, name as model_name, * from model where id = ?").params(id)
                .query(TicketRepository::readModel).optional();
    }

    void saveModel(long id, long modelId) {
        jdbc.sql("update ticket set model_id = ? where id = ?").params(modelId, id).update();
    }

    /** Tickets whose model came from the same place, and how many of them had a run that failed. */
    Experience experience(String source, long exceptTicket) {
        return jdbc.sql("""
                select count(*) as files, coalesce(sum(exists (select 1 from run r where r.ticket_id = t.id)), 0) as printed,
                    coalesce(sum(exists (select 1 from run r where r.ticket_id = t.id and r.state = 'FAILED')), 0) as failed
                from ticket t where lower(trim(t.source)) = lower(trim(?)) and t.id <> ?""").params(source, exceptTicket)
                .query((row, n) -> new Experience(row.getInt("files"), row.getInt("printed"), row.getInt("failed")))
                .single();
    }

    /** Plastic and machine hours of a member's runs since a moment, promised ones while they run. */
    Used used(long memberId, Instant since) {
        return jdbc.sql("""
                select coalesce(sum(coalesce(r.real_g, r.promised_g)), 0) as g,
                    coalesce(sum(coalesce(r.real_minutes * 60, r.promised_s)), 0) as s
                from run r join ticket t on t.id = r.ticket_id where t.member_id = ? and r.started_at >= ?""")
                .params(memberId, since.toEpochMilli())
                .query((row, n) -> new Used(row.getDouble("g"), row.getDouble("s") / 3600)).single();
    }

    /** Of the runs that ended on a printer, how many and how many of them failed. */
    int[] ended(String printerId) {
        return jdbc.sql("""
                select count(*) as ended, coalesce(sum(state = 'FAILED'), 0) as failed
                from run where printer_id = ? and state <> 'RUNNING'""").params(printerId)
                .query((row, n) -> new int[] {row.getInt("ended"), row.getInt("failed")}).single();
    }

    void savePlan(long id, Plan plan, double promisedS, double promisedG) {
        jdbc.sql("""
                update ticket set printer_id = ?, spool_id = ?, starting_point = ?, recipe = ?, fresh = ?, promised_s = ?,
                    promised_g = ? where id = ?""")
                .params(plan.printerId(), plan.spoolId(), plan.start().code(), json.writeValueAsString(plan.recipe()),
                        plan.fresh(), promisedS, promisedG, id)
                .update();
    }

    /** Moves a ticket on, if it still is where it was seen last; tells whether it was. */
    boolean move(long id, TicketState from, TicketState to) {
        return jdbc.sql("update ticket set state = ? where id = ? and state = ?")
                .params(to.name(), id, from.name()).update() == 1;
    }

    void queuedAt(long id, Instant at) {
        jdbc.sql("update ticket set queued_at = ? where id = ?").params(at.toEpochMilli(), id).update();
    }

    long insertRun(Ticket ticket, long nozzleId, double prepareS, String coreVersion, Instant at, String who) {
        return jdbc.sql("""
                insert into run (ticket_id, printer_id, spool_id, nozzle_id, recipe, promised_s, prepare_s, promised_g,
                    core_version, state, started_at, started_by)
                values (?, ?, ?, ?, ?, ?, ?, ?, ?, 'RUNNING', ?, (select id from account where username = ? collate nocase)) returning id""")
                .params(ticket.id(), ticket.printerId(), ticket.spoolId(), nozzleId, json.writeValueAsString(ticket.recipe()),
                        ticket.promisedS(), prepareS, ticket.promisedG(), coreVersion, at.toEpochMilli(), who)
                .query(Long.class).single();
    }

    /** Ends a run that still runs; tells whether it did. */
    boolean endRun(long id, Run.State state, RunEnd end, Instant at, Money cost) {
        boolean ended = jdbc.sql("""
                update run set state = ?, ended_at = ?, real_minutes = ?, real_g = ?, cost_minor = ?, cost_currency = ?, cause = ?, note = ?,
                    photo_sha256 = ?, photo_type = ? where id = ? and state = 'RUNNING'""")
                .params(state.name(), at.toEpochMilli(), end.realMinutes(), end.realG(), cost.coins(),
                        cost.currency().getCurrencyCode(), end.cause(), end.note(),
                        end.photoSha256(), end.photoType(), id).update() == 1;
        for (Defect defect : ended ? end.defects() : List.<Defect>of()) {
            jdbc.sql("insert into run_defect (run_id, code) values (?, ?)").params(id, defect.name()).update();
        }
        return ended;
    }

    /** Copies of a ticket that came out well. */
    long done(long ticketId) {
        return jdbc.sql("select count(*) from run where ticket_id = ? and state = 'DONE'").params(ticketId).query(Long.class).single();
    }

    Optional<Run> run(long id) {
        return jdbc.sql(RUNS + " where r.id = ?").params(id).query(this::readRun).optional();
    }

    List<Run> runsOf(long ticketId) {
        return jdbc.sql(RUNS + " where r.ticket_id = ? order by r.id").params(ticketId).query(this::readRun).list();
    }

    List<Run> running() {
        return jdbc.sql(RUNS + " where r.state = 'RUNNING'").query(this::readRun).list();
    }

    /**
     * Runs that match, the latest first.
     *
     * @param before only those that started before this one did; null for the latest
     */
    List<Run> runs(RunFilter filter, @Nullable Long before, int most) {
        Where where = Where.of(filter);
        if (before != null) {
            where.and("(r.started_at, r.id) < (select started_at, id from run where id = :before)", "before", before);
        }
        return jdbc.sql(RUNS + where.clause() + " order by r.started_at desc, r.id desc limit " + most).params(where.values())
                .query(this::readRun).list();
    }

    /** Hands over all runs that match, the latest first, one after another. */
    void each(RunFilter filter, Consumer<Run> each) {
        Where where = Where.of(filter);
        try (Stream<Run> runs = jdbc.sql(RUNS + where.clause() + " order by r.started_at desc, r.id desc").params(where.values())
                .query(this::readRun).stream()) {
            runs.forEach(each);
        }
    }

    /** What the runs that match and have ended come to. */
    RunSums sums(RunFilter filter) {
        Where where = Where.of(filter);
        return jdbc.sql("""
                select count(*) as ended, coalesce(sum(r.state = 'FAILED'), 0) as failed, coalesce(sum(r.real_g), 0) as g,
                    coalesce(sum(r.real_minutes), 0) as minutes, coalesce(sum(r.promised_s) filter (where r.state = 'DONE'), 0) as promised,
                    coalesce(sum(r.real_minutes) filter (where r.state = 'DONE'), 0) as took from run r %s %s""".formatted(
                filter.words().isEmpty() ? "" : NAMED, where.andAlso("r.state <> 'RUNNING'").clause())).params(where.values())
                .query((row, n) -> new RunSums(row.getLong("ended"), row.getLong("failed"), row.getDouble("g"),
                        row.getDouble("minutes") / 60, new Deviation(row.getDouble("promised") / 60, row.getDouble("took")), cost(filter)))
                .single();
    }

    private List<Money> cost(RunFilter filter) {
        Where where = Where.of(filter);
        return jdbc.sql("""
                select r.cost_currency, sum(r.cost_minor) as coins from run r %s %s group by r.cost_currency order by r.cost_currency"""
                .formatted(filter.words().isEmpty() ? "" : NAMED, where.andAlso("r.cost_minor is not null").clause())).params(where.values())
                .query((row, n) -> Money.ofCoins(row.getLong("coins"), Currency.getInstance(row.getString("cost_currency")))).list();
    }

    /** Conditions, all of which hold, with their values. */
    private record Where(List<String> conditions, Map<String, Object> values) {

        static Where of(RunFilter filter) {
            Where where = new Where(new ArrayList<>(), new HashMap<>());
            if (!filter.printerId().isEmpty()) {
                where.and("r.printer_id = :printer", "printer", filter.printerId());
            }
            if (filter.state() != null) {
                where.and("r.state = :state", "state", filter.state().name());
            }
            if (filter.from() != null) {
                where.and("r.started_at >= :from", "from", filter.from().toEpochMilli());
            }
            if (filter.to() != null) {
                where.and("r.started_at < :to", "to", filter.to().toEpochMilli());
            }
            if (!filter.words().isEmpty()) {
                where.and("instr(lower(m.name || ' ' || coalesce(p.name, '') || ' ' || r.cause), :words) > 0", "words",
                        filter.words().toLowerCase(Locale.ROOT));
            }
            return where;
        }

        void and(String condition, String name, Object value) {
            conditions.add(condition);
            values.put(name, value);
        }

        Where andAlso(String condition) {
            conditions.add(condition);
            return this;
        }

        String clause() {
            return conditions.isEmpty() ? "" : " where " + String.join(" and ", conditions);
        }
    }

    private Ticket readTicket(ResultSet row, int number) throws SQLException {
        String recipe = row.getString("recipe");
        String purpose = row.getString("purpose");
        return new Ticket(row.getLong("id"), readModel(row, number),
                TicketState.valueOf(row.getString("state")),
                new Request(longOrNull(row, "member_id"), purpose == null ? null : Purpose.valueOf(purpose),
                        instantOrNull(row, "needed_by"), row.getString("material_wish"),
                        row.getString("colour_wish"), row.getInt("quantity"), row.getString("source"),
                        row.getString("designer_notes")),
                LengthUnit.ofSymbol(row.getString("unit")).orElseThrow(), row.getDouble("scale_percent"),
                json.readValue(row.getString("rotation"), Rotation.class), row.getString("printer_id"), longOrNull(row, "spool_id"),
                StartingPoint.ofCode(row.getString("starting_point")).orElse(StartingPoint.DAILY_BREAD),
                recipe == null ? null : json.readValue(recipe, Recipe.class), row.getBoolean("fresh"), row.getDouble("promised_s"),
                row.getDouble("promised_g"), instantOrNull(row, "queued_at"),
                instant(row, "created_at"));
    }

    private static StoredModel readModel(ResultSet row, int number) throws SQLException {
        long original = row.getLong("revision_of");
        return new StoredModel(row.getLong("model_id"), row.getString("model_name"), row.getString("sha256"),
                row.getLong("bytes"), ModelFormat.valueOf(row.getString("format")), original == 0 ? null : original,
                row.getString("made_by"));
    }

    private Run readRun(ResultSet row, int number) throws SQLException {
        String codes = row.getString("defects");
        List<Defect> defects = codes == null ? List.of()
                : Arrays.stream(codes.split(",")).map(Defect::valueOf).toList();
        Long cost = longOrNull(row, "cost_minor");
        return new Run(row.getLong("id"), row.getLong("ticket_id"), row.getString("model_name"),
                row.getString("member_name"), row.getString("printer_id"), row.getString("printer_name"),
                row.getLong("spool_id"), row.getString("spool_name"), row.getDouble("promised_s"),
                row.getDouble("prepare_s"), row.getDouble("promised_g"), Run.State.valueOf(row.getString("state")),
                instant(row, "started_at"), row.getString("starter"), instantOrNull(row, "ended_at"), doubleOrNull(row, "real_minutes"),
                doubleOrNull(row, "real_g"), cost == null ? null : Money.ofCoins(cost, Currency.getInstance(row.getString("cost_currency"))),
                defects, row.getString("cause"), row.getString("note"), row.getString("photo_sha256"), row.getString("photo_type"));
    }
}
