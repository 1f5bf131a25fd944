package fabbrica.web.plan;

import static fabbrica.web.platform.storage.Columns.instant;
import static fabbrica.web.platform.storage.Columns.instantOrNull;
import static fabbrica.web.platform.storage.Columns.longOrNull;

import com.github.benmanes.caffeine.cache.Cache;
import fabbrica.core.estimate.Portions;
import fabbrica.core.recipe.Part;
import fabbrica.core.recipe.Plate;
import fabbrica.core.recipe.Plate.Copy;
import fabbrica.core.recipe.Plate.Place;
import fabbrica.web.plan.LaidPlate.LaidCopy;
import fabbrica.web.plan.LaidPlate.PublishedSlot;
import fabbrica.web.plan.LaidPlate.State;
import fabbrica.web.platform.Caches;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Collection;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.jspecify.annotations.Nullable;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Repository;
import tools.jackson.databind.ObjectMapper;

/** The SQL of plates, the copies on them, and what was promised of them. */
@Repository
class PlateRepository {

    private static final String PLATES = """
            select p.*, n.starting_point, n.recipe, n.printer_id, n.spool_id, n.fresh, r.id as promise_id, r.phases, r.portions, r.prepare_s, r.total_s,
                r.earliest_s, r.latest_s, r.grams, r.least_g, r.most_g, r.purged_g, r.support_g, r.core_version,
                r.runs, r.raw_phases, r.raw_s, r.raw_g, s.printer_id as slot_printer, s.start_at, s.end_at, s.hand_out_at, s.pinned,
                (select started_at from run u where u.plate_id = p.id and u.state = 'RUNNING') as started_at,
                (select expected_at from run u where u.plate_id = p.id and u.state = 'RUNNING') as expected_at
            from plate p join plan n on n.id = p.plan_id
            left join promise r on r.id = (select max(id) from promise o where o.plate_id = p.id)
            left join slot s on s.plate_id = p.id
            """;
    private static final int MOST_READ = 3000;

    private final JdbcClient jdbc;
    private final ObjectMapper json;
    private final PlanRepository plans;
    /** Read once: copies share them, and what waits is looked at again and again. */
    private final Cache<String, Part> parts = Caches.of(MOST_READ).build();
    private final Cache<String, Portions> portions = Caches.of(MOST_READ).build();
    private final StoredPhases phases;

    PlateRepository(JdbcClient jdbc, ObjectMapper json, PlanRepository plans, StoredPhases phases) {
        this.jdbc = jdbc;
        this.json = json;
        this.plans = plans;
        this.phases = phases;
    }

    long insert(long planId, Plate.Sequence sequence, Instant at) {
        return jdbc.sql("""
                insert into plate (plan_id, sequence, state, place, made_at)
                values (?, ?, 'DRAFT', (select coalesce(max(id), 0) + 1 from plate), ?) returning id""")
                .params(planId, sequence.name(), at.toEpochMilli()).query(Long.class).single();
    }

    void insertCopy(long plateId, long ticketId, int nth, Copy copy) {
        jdbc.sql("insert into plate_copy (plate_id, ticket_id, nth, part, x_mm, y_mm, turn_deg) values (?, ?, ?, ?, ?, ?, ?)")
                .params(plateId, ticketId, nth, json.writeValueAsString(copy.part()), copy.place().xMm(), copy.place().yMm(),
                        copy.place().turnDeg()).update();
    }

    /** Only of a plate that no run names. */
    void deleteCopies(long plateId) {
        jdbc.sql("delete from plate_copy where plate_id = ?").params(plateId).update();
    }

    void savePlace(long copyId, Place place) {
        jdbc.sql("update plate_copy set x_mm = ?, y_mm = ?, turn_deg = ? where id = ?")
                .params(place.xMm(), place.yMm(), place.turnDeg(), copyId).update();
    }

    void savePlan(long id, long planId, Plate.Sequence sequence) {
        jdbc.sql("update plate set plan_id = ?, sequence = ? where id = ?").params(planId, sequence.name(), id).update();
    }

    /** Moves a plate on, if it still is where it was seen last; tells whether it was. What no longer waits is in no floor plan. */
    boolean move(long id, State from, State to) {
        if (from == State.QUEUED) {
            jdbc.sql("delete from slot where plate_id = ? and (select state from plate where id = ?) = 'QUEUED'").params(id, id).update();
        }
        return jdbc.sql("update plate set state = ? where id = ? and state = ?").params(to.name(), id, from.name()).update() == 1;
    }

    /** The file that was handed out for it last. */
    void saveFile(long id, String hash) {
        jdbc.sql("update plate set file_hash = ? where id = ?").params(hash, id).update();
    }

    void queue(long id, Instant at) {
        jdbc.sql("update plate set queued_at = ? where id = ?").params(at.toEpochMilli(), id).update();
    }

    void savePlaceInQueue(long id, double place) {
        jdbc.sql("update plate set place = ? where id = ?").params(place, id).update();
    }

    long insertPromise(long plateId, Promise promise, Instant at) {
        return jdbc.sql("""
                insert into promise (plate_id, printer_id, phases, portions, prepare_s, total_s, earliest_s, latest_s, grams, least_g, most_g, purged_g, support_g, core_version,
                    runs, raw_phases, raw_s, raw_g, made_at) values (?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?) returning id""")
                .params(plateId, promise.printerId(), json.writeValueAsString(promise.phases()), json.writeValueAsString(promise.portions()), promise.prepareS(), promise.totalS(),
                        promise.earliestS(), promise.latestS(), promise.grams(), promise.leastG(), promise.mostG(), promise.purgedG(), promise.supportG(), promise.coreVersion(),
                        promise.runs(), json.writeValueAsString(promise.raw().phases()), promise.raw().totalS(), promise.raw().grams(), at.toEpochMilli())
                .query(Long.class).single();
    }

    Optional<LaidPlate> find(long id) {
        return filled(jdbc.sql(PLATES + " where p.id = ?").params(id).query(this::read).list()).stream().findFirst();
    }

    List<LaidPlate> find(Collection<Long> ids) {
        return ids.isEmpty() ? List.of() : filled(jdbc.sql(PLATES + " where p.id in (:ids) order by p.id").param("ids", ids).query(this::read).list());
    }

    /** In the order in which they wait. */
    List<LaidPlate> inState(State state) {
        return filled(jdbc.sql(PLATES + " where p.state = ? order by p.place, p.id").params(state.name()).query(this::read).list());
    }

    /** Those that are not over, in the order in which they wait. */
    List<LaidPlate> open() {
        return filled(jdbc.sql(PLATES + " where p.state in ('DRAFT', 'QUEUED', 'RUNNING') order by p.place, p.id").query(this::read).list());
    }

    /** Those that are not over, on which a ticket has copies. */
    List<LaidPlate> openOf(long ticketId) {
        return filled(jdbc.sql(PLATES + """
                 where p.state in ('DRAFT', 'QUEUED', 'RUNNING')
                and p.id in (select plate_id from plate_copy where ticket_id = ?) order by p.place, p.id""").params(ticketId).query(this::read)
                .list());
    }

    /** Those that wait, print or are printed, with copies of some tickets. */
    List<LaidPlate> promisedOf(Collection<Long> tickets) {
        return filled(jdbc.sql(PLATES + """
                 where p.state in ('QUEUED', 'RUNNING', 'ENDED') and p.id in (select plate_id from plate_copy where ticket_id in (:tickets)) order by p.id""")
                .param("tickets", tickets).query(this::read).list());
    }

    /** How the copies of some tickets stand. */
    Map<Long, Copies> copies(Collection<Long> tickets) {
        Map<Long, Copies> copies = new HashMap<>();
        if (tickets.isEmpty()) {
            return copies;
        }
        jdbc.sql("""
                select t.id, t.quantity,
                    (select count(*) from run_copy c where c.ticket_id = t.id and c.outcome in ('WELL', 'USABLE')) as well,
                    (select count(*) from run_copy c where c.ticket_id = t.id and c.outcome = 'FAILED') as failed,
                    count(*) filter (where p.state = 'DRAFT') as drafted, count(*) filter (where p.state = 'QUEUED') as queued,
                    count(*) filter (where p.state = 'RUNNING') as running
                from ticket t left join plate_copy c on c.ticket_id = t.id
                left join plate p on p.id = c.plate_id and p.state in ('DRAFT', 'QUEUED', 'RUNNING')
                where t.id in (:tickets) group by t.id""").param("tickets", tickets).query(row -> {
                    copies.put(row.getLong("id"), new Copies(row.getInt("quantity"), row.getInt("well"), row.getInt("failed"),
                            row.getInt("drafted"), row.getInt("queued"), row.getInt("running")));
                });
        return copies;
    }

    /** Grams that plates that wait were promised of each spool, but for some. */
    Map<Long, Double> promisedBySpool(Collection<Long> butFor) {
        Map<Long, Double> promised = new HashMap<>();
        jdbc.sql("""
                select n.spool_id, sum(r.grams) as grams from plate p join plan n on n.id = p.plan_id
                join promise r on r.id = (select max(id) from promise o where o.plate_id = p.id)
                where p.state = 'QUEUED' and n.spool_id is not null and p.id not in (:but) group by n.spool_id""").param("but", butFor).query(row -> {
                    promised.put(row.getLong("spool_id"), row.getDouble("grams"));
                });
        return promised;
    }

    private List<LaidPlate> filled(List<LaidPlate> plates) {
        if (plates.isEmpty()) {
            return plates;
        }
        Map<Long, List<LaidCopy>> copies = new HashMap<>();
        jdbc.sql("""
                select c.*, m.name as model_name, coalesce(b.name, '') as member_name from plate_copy c
                join ticket t on t.id = c.ticket_id join model m on m.id = t.model_id left join member b on b.id = t.member_id
                where c.plate_id in (:plates) order by c.nth""").param("plates", plates.stream().map(LaidPlate::id).toList()).query(row -> {
                    copies.computeIfAbsent(row.getLong("plate_id"), id -> new ArrayList<>()).add(new LaidCopy(row.getLong("id"),
                            row.getLong("ticket_id"), row.getInt("nth"), new Copy(parts.get(row.getString("part"), stored -> json.readValue(stored, Part.class)),
                                    new Place(row.getDouble("x_mm"), row.getDouble("y_mm"), row.getDouble("turn_deg"))),
                            row.getString("model_name"), row.getString("member_name")));
                });
        return plates.stream().map(plate -> new LaidPlate(plate.id(), plate.plan(), plate.sequence(), plate.state(), plate.place(),
                plate.madeAt(), plate.queuedAt(), plate.startedAt(), plate.expectedAt(), copies.getOrDefault(plate.id(), List.of()), plate.promise(), plate.published())).toList();
    }

    private LaidPlate read(ResultSet row, int number) throws SQLException {
        Plan plan = plans.read(row, number);
        Long promise = longOrNull(row, "promise_id");
        return new LaidPlate(row.getLong("id"), new Plan(row.getLong("plan_id"), plan.entry()), Plate.Sequence.valueOf(row.getString("sequence")),
                State.valueOf(row.getString("state")), row.getDouble("place"), instant(row, "made_at"), instantOrNull(row, "queued_at"), instantOrNull(row, "started_at"), instantOrNull(row, "expected_at"),
                List.of(),
                promise == null ? null : new Promise(promise, row.getString("printer_id"), phases.of(row.getString("phases")),
                        row.getDouble("prepare_s"), row.getDouble("total_s"), row.getDouble("earliest_s"), row.getDouble("latest_s"),
                        row.getDouble("grams"), row.getDouble("least_g"), row.getDouble("most_g"), row.getDouble("purged_g"), row.getDouble("support_g"),
                        portions.get(row.getString("portions"), stored -> json.readValue(stored, Portions.class)), row.getString("core_version"),
                        row.getInt("runs"), new Promise.Raw(phases.of(row.getString("raw_phases")), row.getDouble("raw_s"), row.getDouble("raw_g"))), published(row));
    }

    private static @Nullable PublishedSlot published(ResultSet row) throws SQLException {
        String printer = row.getString("slot_printer");
        return printer == null ? null : new PublishedSlot(printer, instant(row, "start_at"), instant(row, "end_at"), instant(row, "hand_out_at"), row.getBoolean("pinned"));
    }
}
