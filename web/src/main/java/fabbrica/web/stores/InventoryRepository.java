package fabbrica.web.stores;

import fabbrica.core.bed.Bed;
import fabbrica.core.estimate.Tariff;
import fabbrica.core.recipe.Board;
import fabbrica.core.recipe.Kinematics;
import fabbrica.core.recipe.Material;
import fabbrica.core.recipe.Nozzle;
import fabbrica.core.recipe.OwnWay;
import fabbrica.core.recipe.Preparation;
import fabbrica.core.recipe.Printer;
import fabbrica.core.recipe.Spool;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.time.LocalDate;
import java.time.LocalTime;
import java.util.Arrays;
import java.util.Currency;
import java.util.HashSet;
import java.util.List;
import java.util.Optional;
import java.util.stream.Collectors;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Repository;
import tools.jackson.databind.ObjectMapper;

/** The SQL of the stores. */
@Repository
class InventoryRepository {

    private static final String PRINTERS = """
            select p.*, n.bore_mm, n.hardened,
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
                Currency.getInstance(row.getString("currency")), row.getInt("limit_mb"),
                LocalTime.parse(row.getString("opens")), LocalTime.parse(row.getString("closes")),
                row.getString("tariff") == null ? Tariff.PLASTIC_ONLY
                        : json.readValue(row.getString("tariff"), Tariff.class), new Keeping(row.getInt("keep_models_days"),
                        row.getInt("keep_photos_days"), row.getInt("keep_members_days")))).optional();
    }

    void save(Lab lab) {
        jdbc.sql("""
                insert into lab (id, name, currency, limit_mb, opens, closes, tariff, keep_models_days, keep_photos_days,
                    keep_members_days) values (1, ?, ?, ?, ?, ?, ?, ?, ?, ?)
                on conflict (id) do update set name = excluded.name, currency = excluded.currency,
                    limit_mb = excluded.limit_mb, opens = excluded.opens, closes = excluded.closes,
                    tariff = excluded.tariff, keep_models_days = excluded.keep_models_days,
                    keep_photos_days = excluded.keep_photos_days, keep_members_days = excluded.keep_members_days""")
                .params(lab.name(), lab.currency().getCurrencyCode(), lab.limitMb(), lab.opens().toString(),
                        lab.closes().toString(), json.writeValueAsString(lab.tariff()), lab.keeping().modelsDays(),
                        lab.keeping().photosDays(), lab.keeping().membersDays()).update();
    }

    List<StockNozzle> nozzles() {
        return jdbc.sql("select * from nozzle order by bore_mm, hardened, id").query((row, n) -> new StockNozzle(
                row.getLong("id"), nozzle(row), row.getString("note"))).list();
    }

    long insert(Nozzle nozzle, String note) {
        return jdbc.sql("insert into nozzle (bore_mm, hardened, note) values (?, ?, ?) returning id")
                .params(nozzle.boreMm(), nozzle.hardened(), note).query(Long.class).single();
    }

    void update(long id, Nozzle nozzle, String note) {
        jdbc.sql("update nozzle set bore_mm = ?, hardened = ?, note = ? where id = ?")
                .params(nozzle.boreMm(), nozzle.hardened(), note, id).update();
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

    Optional<StockPrinter> printer(String id) {
        return jdbc.sql(PRINTERS + " where p.id = ?").params(id).query(this::readPrinter).optional();
    }

    void save(StockPrinter stock) {
        Printer printer = stock.printer();
        Kinematics k = printer.kinematics();
        Preparation p = printer.preparation();
        jdbc.sql("""
                insert into printer (id, name, nozzle_id, width_mm, depth_mm, height_mm, max_speed, acceleration,
                    corner_speed, z_speed, max_flow, retraction_mm, retraction_speed, bed_c_per_s, nozzle_c_per_s,
                    homing_s, levelling_s, flow_s, purge_s, purge_mm3, picture_s, end_s, filament_mm, enclosed, max_nozzle_c, max_bed_c,
                    narrowest_gap_mm, longest_bridge_mm, raft_always, out_of_order, own_start, own_end, change_s, board)
                values (?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?)
                on conflict (id) do update set name = excluded.name, nozzle_id = excluded.nozzle_id,
                    width_mm = excluded.width_mm, depth_mm = excluded.depth_mm, height_mm = excluded.height_mm,
                    max_speed = excluded.max_speed, acceleration = excluded.acceleration,
                    corner_speed = excluded.corner_speed, z_speed = excluded.z_speed, max_flow = excluded.max_flow,
                    retraction_mm = excluded.retraction_mm, retraction_speed = excluded.retraction_speed,
                    bed_c_per_s = excluded.bed_c_per_s, nozzle_c_per_s = excluded.nozzle_c_per_s,
                    homing_s = excluded.homing_s, levelling_s = excluded.levelling_s, flow_s = excluded.flow_s,
                    purge_s = excluded.purge_s, picture_s = excluded.picture_s, end_s = excluded.end_s,
                    purge_mm3 = excluded.purge_mm3, filament_mm = excluded.filament_mm,
                    enclosed = excluded.enclosed, max_nozzle_c = excluded.max_nozzle_c,
                    max_bed_c = excluded.max_bed_c, narrowest_gap_mm = excluded.narrowest_gap_mm,
                    longest_bridge_mm = excluded.longest_bridge_mm, raft_always = excluded.raft_always,
                    out_of_order = excluded.out_of_order, own_start = excluded.own_start,
                    own_end = excluded.own_end, change_s = excluded.change_s, board = excluded.board""")
                .params(printer.id(), printer.name(), stock.nozzleId(), printer.bed().widthMm(),
                        printer.bed().depthMm(), printer.bed().heightMm(), k.maxSpeedMmS(), k.accelerationMmS2(),
                        k.cornerSpeedMmS(), k.zSpeedMmS(), k.maxFlowMm3S(), k.retractionMm(), k.retractionSpeedMmS(),
                        p.bedCPerS(), p.nozzleCPerS(), p.homingS(), p.levellingS(), p.flowS(), p.purgeS(),
                        p.purgeMm3(), p.pictureS(), p.endS(),
                        printer.filamentMm(), printer.enclosed(), printer.maxNozzleC(), printer.maxBedC(),
                        stock.narrowestGapMm(), stock.longestBridgeMm(), stock.raftAlways(), stock.outOfOrder(),
                        printer.ownWay().start(), printer.ownWay().end(), p.changeS(), board(k.board())).update();
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

    List<StockSpool> spools() {
        return jdbc.sql("""
                select s.*, (select currency from lab) as currency from spool s
                order by s.retired, s.material_id, s.colour, s.id""").query(this::readSpool).list();
    }

    Optional<StockSpool> spool(long id) {
        return jdbc.sql("select s.*, (select currency from lab) as currency from spool s where id = ?").params(id)
                .query(this::readSpool).optional();
    }

    long insertSpool(String materialId, String colour, double grams, double pricePerKg, LocalDate openedOn) {
        return jdbc.sql("""
                insert into spool (material_id, colour, initial_g, remaining_g, price_per_kg, opened_on)
                values (:material, :colour, :grams, :grams, :price, :opened) returning id""")
                .param("material", materialId).param("colour", colour).param("grams", grams)
                .param("price", pricePerKg).param("opened", openedOn == null ? null : openedOn.toString())
                .query(Long.class).single();
    }

    void updateSpool(long id, String materialId, String colour, double remainingG, double pricePerKg,
                     LocalDate openedOn, boolean retired) {
        jdbc.sql("""
                update spool set material_id = ?, colour = ?, remaining_g = ?, price_per_kg = ?, opened_on = ?,
                    retired = ?, initial_g = max(initial_g, ?) where id = ?""")
                .params(materialId, colour, remainingG, pricePerKg, openedOn == null ? null : openedOn.toString(),
                        retired, remainingG, id).update();
    }

    void take(long spoolId, double grams) {
        jdbc.sql("update spool set remaining_g = remaining_g - ? where id = ?").params(grams, spoolId).update();
    }

    void deleteSpool(long id) {
        jdbc.sql("delete from spool where id = ?").params(id).update();
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
                row.getLong("nozzle_id"),
                row.getDouble("narrowest_gap_mm"), row.getDouble("longest_bridge_mm"), row.getBoolean("raft_always"),
                row.getBoolean("out_of_order"));
    }

    private StockSpool readSpool(ResultSet row, int number) throws SQLException {
        String opened = row.getString("opened_on");
        return new StockSpool(row.getLong("id"), new Spool(row.getString("id"), row.getString("material_id"),
                row.getString("colour"), row.getDouble("remaining_g"), row.getDouble("price_per_kg"),
                Currency.getInstance(row.getString("currency"))), row.getDouble("initial_g"),
                opened == null ? null : LocalDate.parse(opened), row.getBoolean("retired"));
    }

    /** The values of the board's fields in their order, parted by spaces. */
    private static String board(Board board) {
        return PrinterFields.BOARD.stream().map(field -> Double.toString(field.value().applyAsDouble(board)))
                .collect(Collectors.joining(" "));
    }

    private static double[] board(String values) {
        return Arrays.stream(values.split(" ")).mapToDouble(Double::parseDouble).toArray();
    }

    private static List<String> parts(String joined, String separator) {
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
