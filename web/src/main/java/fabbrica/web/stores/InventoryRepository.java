package fabbrica.web.stores;

import static fabbrica.web.platform.storage.Columns.amount;
import static fabbrica.web.platform.storage.Columns.coins;
import static fabbrica.web.platform.storage.Columns.instantOrNull;
import static fabbrica.web.platform.storage.Columns.longOrNull;
import static fabbrica.web.platform.storage.Columns.millis;

import fabbrica.core.bed.Bed;
import fabbrica.core.estimate.MachineCost;
import fabbrica.core.estimate.Tariff;
import fabbrica.core.judge.Policy;
import fabbrica.core.judge.UsedBy;
import fabbrica.core.recipe.Board;
import fabbrica.core.recipe.Kinematics;
import fabbrica.core.recipe.Material;
import fabbrica.core.recipe.Nozzle;
import fabbrica.core.recipe.OwnWay;
import fabbrica.core.recipe.Preparation;
import fabbrica.core.recipe.Printer;
import fabbrica.core.schedule.Calendar;
import fabbrica.core.schedule.Calendar.Hours;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.time.DayOfWeek;
import java.time.LocalDate;
import java.time.ZoneId;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.Currency;
import java.util.EnumMap;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.OptionalDouble;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Repository;
import tools.jackson.databind.ObjectMapper;

/** The SQL of the stores. */
@Repository
class InventoryRepository {

    private static final String PRINTERS = """
            select p.*, n.bore_mm, n.hardened, (select currency from lab) as currency,
                (select group_concat(material_id) from printer_material m where m.printer_id = p.id) as materials,
                (select group_concat(min_x || ' ' || min_y || ' ' || max_x || ' ' || max_y, ';') from keep_out k
                    where k.printer_id = p.id) as zones
            from printer p join nozzle n on n.id = p.nozzle_id""";

    private final JdbcClient jdbc;
    private final ObjectMapper json;

    InventoryRepository(JdbcClient jdbc, ObjectMapper json) {
        this.jdbc = jdbc;
        this.json = json;
    }

    Optional<Lab> lab() {
        return jdbc.sql("select * from lab").query((row, n) -> new Lab(row.getString("name"),
                Currency.getInstance(row.getString("currency")), row.getString("zone") == null ? null : ZoneId.of(row.getString("zone")),
                row.getInt("limit_mb"), row.getString("tariff") == null ? Tariff.PLASTIC_ONLY
                        : json.readValue(row.getString("tariff"), Tariff.class), row.getString("policy") == null ? Policy.USUAL
                        : json.readValue(row.getString("policy"), Policy.class), new Keeping(row.getInt("keep_models_days"),
                        row.getInt("keep_photos_days"), row.getInt("keep_members_days"), row.getInt("remind_days"), row.getInt("shelf_days")), row.getString("round").lines().toList())).optional();
    }

    void save(Lab lab) {
        jdbc.sql("""
                insert into lab (id, name, currency, zone, limit_mb, tariff, policy, keep_models_days, keep_photos_days,
                    keep_members_days, remind_days, shelf_days, round) values (1, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?)
                on conflict (id) do update set name = excluded.name, currency = excluded.currency, zone = excluded.zone,
                    limit_mb = excluded.limit_mb, tariff = excluded.tariff, policy = excluded.policy, keep_models_days = excluded.keep_models_days,
                    keep_photos_days = excluded.keep_photos_days, keep_members_days = excluded.keep_members_days,
                    remind_days = excluded.remind_days, shelf_days = excluded.shelf_days, round = excluded.round""")
                .params(Arrays.asList(lab.name(), lab.currency().getCurrencyCode(), lab.zone() == null ? null : lab.zone().getId(), lab.limitMb(),
                        json.writeValueAsString(lab.tariff()), json.writeValueAsString(lab.policy()), lab.keeping().modelsDays(), lab.keeping().photosDays(),
                        lab.keeping().membersDays(), lab.keeping().remindDays(), lab.keeping().shelfDays(), String.join("\n", lab.round()))).update();
    }

    Calendar calendar(ZoneId zone) {
        Map<DayOfWeek, List<Hours>> weekdays = new EnumMap<>(DayOfWeek.class);
        jdbc.sql("select * from opening order by weekday, from_min").query(row -> {
            weekdays.computeIfAbsent(DayOfWeek.of(row.getInt("weekday")), day -> new ArrayList<>()).add(hours(row));
        });
        Map<LocalDate, List<Hours>> special = new LinkedHashMap<>();
        jdbc.sql("""
                select s.day, o.from_min, o.to_min from special_day s left join special_opening o on o.day = s.day
                order by s.day, o.from_min""").query(row -> {
                    List<Hours> hours = special.computeIfAbsent(LocalDate.parse(row.getString("day")), day -> new ArrayList<>());
                    if (row.getObject("from_min") != null) {
                        hours.add(hours(row));
                    }
                });
        return new Calendar(zone, weekdays, special);
    }

    CalendarText.Notes notes() {
        Map<LocalDate, String> notes = new LinkedHashMap<>();
        jdbc.sql("select * from special_day").query(row -> {
            notes.put(LocalDate.parse(row.getString("day")), row.getString("note"));
        });
        return new CalendarText.Notes(notes);
    }

    void save(Calendar calendar, CalendarText.Notes notes) {
        jdbc.sql("delete from opening").update();
        calendar.weekdays().forEach((day, hours) -> hours.forEach(h -> jdbc.sql(
                "insert into opening (weekday, from_min, to_min) values (?, ?, ?)").params(day.getValue(), h.fromMin(), h.toMin()).update()));
        jdbc.sql("delete from special_day").update();
        calendar.specialDays().forEach((day, hours) -> {
            jdbc.sql("insert into special_day (day, note) values (?, ?)").params(day.toString(), notes.byDay().getOrDefault(day, "")).update();
            hours.forEach(h -> jdbc.sql("insert into special_opening (day, from_min, to_min) values (?, ?, ?)")
                    .params(day.toString(), h.fromMin(), h.toMin()).update());
        });
    }

    private static Hours hours(ResultSet row) throws SQLException {
        return new Hours(row.getInt("from_min"), row.getInt("to_min"));
    }

    List<StockNozzle> nozzles() {
        return jdbc.sql("""
                select n.*, p.id as mounted_in from nozzle n left join printer p on p.nozzle_id = n.id
                order by bore_mm, hardened, n.id""")
                .query((row, n) -> new StockNozzle(row.getLong("id"), nozzle(row), row.getString("fitting"), row.getString("note"),
                        row.getDouble("hours_before"), row.getString("mounted_in"))).list();
    }

    /** Hours that each nozzle has run in all. */
    Map<Long, Double> nozzleHours() {
        Map<Long, Double> hours = new LinkedHashMap<>();
        jdbc.sql("""
                select id, hours_before + coalesce((select sum(real_minutes) from run where nozzle_id = nozzle.id), 0) / 60 as hours
                from nozzle""").query(row -> {
                    hours.put(row.getLong("id"), row.getDouble("hours"));
                });
        return hours;
    }

    long insert(Nozzle nozzle, String fitting, String note, double hoursBefore) {
        return jdbc.sql("insert into nozzle (bore_mm, hardened, fitting, note, hours_before) values (?, ?, ?, ?, ?) returning id")
                .params(nozzle.boreMm(), nozzle.hardened(), fitting, note, hoursBefore).query(Long.class).single();
    }

    void update(StockNozzle stock) {
        jdbc.sql("update nozzle set bore_mm = ?, hardened = ?, fitting = ?, note = ?, hours_before = ? where id = ?")
                .params(stock.nozzle().boreMm(), stock.nozzle().hardened(), stock.fitting(), stock.note(), stock.hoursBefore(), stock.id())
                .update();
    }

    void deleteNozzle(long id) {
        jdbc.sql("delete from nozzle where id = ?").params(id).update();
    }

    List<Material> materials() {
        return jdbc.sql("select * from material order by name").query((row, n) -> new Material(row.getString("id"),
                row.getString("name"), row.getDouble("density_g_cm3"), row.getInt("nozzle_c"), row.getInt("bed_c"),
                row.getBoolean("abrasive"), row.getBoolean("enclosed"))).list();
    }

    void save(Material material) {
        jdbc.sql("""
                insert into material (id, name, density_g_cm3, nozzle_c, bed_c, abrasive, enclosed)
                values (?, ?, ?, ?, ?, ?, ?)
                on conflict (id) do update set name = excluded.name, density_g_cm3 = excluded.density_g_cm3,
                    nozzle_c = excluded.nozzle_c, bed_c = excluded.bed_c, abrasive = excluded.abrasive,
                    enclosed = excluded.enclosed""")
                .params(material.id(), material.name(), material.densityGPerCm3(), material.nozzleC(),
                        material.bedC(), material.abrasive(), material.enclosed()).update();
    }

    void deleteMaterial(String id) {
        jdbc.sql("delete from material where id = ?").params(id).update();
    }

    List<StockPrinter> printers() {
        return jdbc.sql(PRINTERS + " order by p.name").query(this::readPrinter).list();
    }

    void save(StockPrinter stock) {
        Printer printer = stock.printer();
        Kinematics k = printer.kinematics();
        Preparation p = printer.preparation();
        Currency currency = lab().orElseThrow().currency();
        Map<String, Object> values = new LinkedHashMap<>();
        values.put("name", printer.name());
        values.put("nozzle_id", stock.nozzleId());
        values.put("place", stock.place());
        values.put("fitting", stock.fitting());
        values.put("used_by", stock.usedBy().name());
        values.put("unattended", stock.unattended());
        values.put("state", stock.condition().down() ? "DOWN" : "READY");
        values.put("unproved", stock.condition().unproved());
        values.put("state_reason", stock.condition().reason());
        values.put("down_until", millis(stock.condition().until()));
        values.put("hours_before", stock.hoursBefore());
        values.put("watts_heating", stock.cost().wattsHeating());
        values.put("watts_printing", stock.cost().wattsPrinting());
        values.put("per_hour_minor", stock.cost().perHour().isEmpty() ? null : coins(stock.cost().perHour().getAsDouble(), currency));
        values.put("width_mm", printer.bed().widthMm());
        values.put("depth_mm", printer.bed().depthMm());
        values.put("height_mm", printer.bed().heightMm());
        values.put("max_speed", k.maxSpeedMmS());
        values.put("acceleration", k.accelerationMmS2());
        values.put("corner_speed", k.cornerSpeedMmS());
        values.put("z_speed", k.zSpeedMmS());
        values.put("max_flow", k.maxFlowMm3S());
        values.put("retraction_mm", k.retractionMm());
        values.put("retraction_speed", k.retractionSpeedMmS());
        values.put("bed_c_per_s", p.bedCPerS());
        values.put("nozzle_c_per_s", p.nozzleCPerS());
        values.put("homing_s", p.homingS());
        values.put("levelling_s", p.levellingS());
        values.put("flow_s", p.flowS());
        values.put("purge_s", p.purgeS());
        values.put("purge_mm3", p.purgeMm3());
        values.put("picture_s", p.pictureS());
        values.put("change_s", p.changeS());
        values.put("end_s", p.endS());
        values.put("filament_mm", printer.filamentMm());
        values.put("enclosed", printer.enclosed());
        values.put("max_nozzle_c", printer.maxNozzleC());
        values.put("max_bed_c", printer.maxBedC());
        values.put("narrowest_gap_mm", stock.narrowestGapMm());
        values.put("longest_bridge_mm", stock.longestBridgeMm());
        values.put("raft_always", stock.raftAlways());
        values.put("own_start", printer.ownWay().start());
        values.put("own_end", printer.ownWay().end());
        values.put("board", board(k.board()));
        jdbc.sql("insert into printer (id, %s) values (:id, %s) on conflict (id) do update set %s".formatted(
                String.join(", ", values.keySet()), values.keySet().stream().map(name -> ":" + name).collect(Collectors.joining(", ")),
                values.keySet().stream().map(name -> name + " = excluded." + name).collect(Collectors.joining(", "))))
                .param("id", printer.id()).params(values).update();
        jdbc.sql("delete from printer_material where printer_id = ?").params(printer.id()).update();
        for (String material : printer.materialIds()) {
            jdbc.sql("insert into printer_material (printer_id, material_id) values (?, ?)")
                    .params(printer.id(), material).update();
        }
        jdbc.sql("delete from keep_out where printer_id = ?").params(printer.id()).update();
        for (Bed.Zone zone : printer.bed().keepOut()) {
            jdbc.sql("insert into keep_out (printer_id, min_x, min_y, max_x, max_y) values (?, ?, ?, ?, ?)")
                    .params(printer.id(), zone.minX(), zone.minY(), zone.maxX(), zone.maxY()).update();
        }
    }

    void deletePrinter(String id) {
        jdbc.sql("delete from printer where id = ?").params(id).update();
    }

    private StockPrinter readPrinter(ResultSet row, int number) throws SQLException {
        String id = row.getString("id");
        // One statement a list: a second one while rows are read would need a second connection.
        List<Bed.Zone> keepOut = parts(row.getString("zones"), ";").stream().map(InventoryRepository::zone).toList();
        List<String> materials = parts(row.getString("materials"), ",");
        return new StockPrinter(new Printer(id, row.getString("name"),
                new Bed(row.getDouble("width_mm"), row.getDouble("depth_mm"), row.getDouble("height_mm"), keepOut),
                nozzle(row),
                PrinterFields.kinematics(new double[] {row.getDouble("max_speed"), row.getDouble("acceleration"),
                        row.getDouble("corner_speed"), row.getDouble("z_speed"), row.getDouble("max_flow"),
                        row.getDouble("retraction_mm"), row.getDouble("retraction_speed")}, board(row.getString("board"))),
                new Preparation(row.getDouble("bed_c_per_s"), row.getDouble("nozzle_c_per_s"),
                        row.getDouble("homing_s"), row.getDouble("levelling_s"), row.getDouble("flow_s"),
                        row.getDouble("purge_s"), row.getDouble("purge_mm3"), row.getDouble("picture_s"),
                        row.getDouble("end_s"), row.getDouble("change_s")),
                row.getDouble("filament_mm"), row.getBoolean("enclosed"), row.getInt("max_nozzle_c"),
                row.getInt("max_bed_c"), new HashSet<>(materials), new OwnWay(row.getString("own_start"), row.getString("own_end"))),
                row.getLong("nozzle_id"), row.getString("place"), row.getString("fitting"), UsedBy.valueOf(row.getString("used_by")),
                row.getBoolean("unattended"), new Condition(row.getBoolean("unproved") ? Condition.State.UNPROVED : Condition.State.valueOf(row.getString("state")),
                        row.getString("state_reason"), instantOrNull(row, "down_until")), cost(row), row.getDouble("hours_before"),
                row.getDouble("narrowest_gap_mm"), row.getDouble("longest_bridge_mm"), row.getBoolean("raft_always"));
    }

    private static MachineCost cost(ResultSet row) throws SQLException {
        Long perHour = longOrNull(row, "per_hour_minor");
        return new MachineCost(row.getDouble("watts_heating"), row.getDouble("watts_printing"), perHour == null ? OptionalDouble.empty()
                : OptionalDouble.of(amount(perHour, Currency.getInstance(row.getString("currency")))));
    }

    /** The values of the board's fields in their order, parted by spaces. */
    private static String board(Board board) {
        return PrinterFields.BOARD.stream().map(field -> Double.toString(field.value().applyAsDouble(board)))
                .collect(Collectors.joining(" "));
    }

    private static double[] board(String values) {
        return Arrays.stream(values.split(" ")).mapToDouble(Double::parseDouble).toArray();
    }

    private static List<String> parts(@Nullable String joined, String separator) {
        return joined == null ? List.of() : List.of(joined.split(separator));
    }

    private static Bed.Zone zone(String sides) {
        double[] side = Arrays.stream(sides.split(" ")).mapToDouble(Double::parseDouble).toArray();
        return new Bed.Zone(side[0], side[1], side[2], side[3]);
    }

    private static Nozzle nozzle(ResultSet row) throws SQLException {
        return new Nozzle(row.getDouble("bore_mm"), row.getBoolean("hardened"));
    }
}
