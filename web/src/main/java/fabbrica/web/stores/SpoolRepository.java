package fabbrica.web.stores;

import static fabbrica.web.platform.storage.Columns.amount;
import static fabbrica.web.platform.storage.Columns.coins;
import static fabbrica.web.platform.storage.Columns.day;
import static fabbrica.web.platform.storage.Columns.dayOrNull;
import static fabbrica.web.platform.storage.Columns.doubleOrNull;
import static fabbrica.web.platform.storage.Columns.instant;

import fabbrica.core.recipe.Spool;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.time.Instant;
import java.util.Arrays;
import java.util.Collection;
import java.util.Currency;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.jspecify.annotations.Nullable;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Repository;

/** The SQL of spools and of what came to them and went from them. */
@Repository
class SpoolRepository {

    private static final String SPOOLS = """
            select s.*, (select currency from lab) as currency,
                (select coalesce(sum(milligrams), 0) from spool_movement m where m.spool_id = s.id) as milligrams from spool s""";

    private final JdbcClient jdbc;

    SpoolRepository(JdbcClient jdbc) {
        this.jdbc = jdbc;
    }

    /** Spools that were taken off the shelf, those with the highest numbers first. */
    List<StockSpool> offShelf(int belowNumber, int most) {
        return jdbc.sql(SPOOLS + " where s.retired and s.number < ? order by s.number desc limit ?").params(belowNumber, most)
                .query(SpoolRepository::read).list();
    }

    List<StockSpool> shelf() {
        return jdbc.sql(SPOOLS + " where not s.retired order by s.material_id, s.colour, s.number").query(SpoolRepository::read).list();
    }

    Optional<StockSpool> spool(long id) {
        return jdbc.sql(SPOOLS + " where s.id = ?").params(id).query(SpoolRepository::read).optional();
    }

    int nextNumber() {
        return jdbc.sql("select coalesce(max(number), 0) + 1 from spool").query(Integer.class).single();
    }

    boolean isTaken(int number, long butFor) {
        return jdbc.sql("select exists (select 1 from spool where number = ? and id <> ?)").params(number, butFor).query(Boolean.class).single();
    }

    long insert(SpoolEntry entry, int number, Currency currency) {
        return jdbc.sql("""
                insert into spool (number, material_id, colour, place, net_g, tare_g, diameter_mm, lot, price_per_kg_minor, opened_on,
                    dried_on, retired) values (?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?) returning id""")
                .params(Arrays.asList(number, entry.materialId(), entry.colour(), entry.place(), entry.netG(), entry.tareG(), entry.diameterMm(),
                        entry.lot(), coins(entry.pricePerKg(), currency), day(entry.openedOn()), day(entry.driedOn()), entry.retired()))
                .query(Long.class).single();
    }

    void update(long id, SpoolEntry entry, int number, Currency currency) {
        jdbc.sql("""
                update spool set number = ?, material_id = ?, colour = ?, place = ?, net_g = ?, tare_g = ?, diameter_mm = ?, lot = ?,
                    price_per_kg_minor = ?, opened_on = ?, dried_on = ?, retired = ? where id = ?""")
                .params(Arrays.asList(number, entry.materialId(), entry.colour(), entry.place(), entry.netG(), entry.tareG(), entry.diameterMm(),
                        entry.lot(), coins(entry.pricePerKg(), currency), day(entry.openedOn()), day(entry.driedOn()), entry.retired(), id))
                .update();
    }

    void load(long id, @Nullable String printerId) {
        jdbc.sql("update spool set loaded_in = ? where id = ?").params(Arrays.asList(printerId, id)).update();
    }

    void unload(String printerId) {
        jdbc.sql("update spool set loaded_in = null where loaded_in = ?").params(printerId).update();
    }

    void delete(long id) {
        jdbc.sql("delete from spool_movement where spool_id = ? and run_id is null").params(id).update();
        jdbc.sql("delete from spool where id = ?").params(id).update();
    }

    void move(long id, Instant at, String who, Movement.Kind kind, double grams, @Nullable Long runId, String reason) {
        jdbc.sql("""
                insert into spool_movement (spool_id, at, by_account, kind, milligrams, run_id, reason)
                values (?, ?, (select id from account where username = ? collate nocase), ?, ?, ?, ?)""")
                .params(Arrays.asList(id, at.toEpochMilli(), who, kind.name(), Math.round(grams * 1000), runId, reason)).update();
    }

    /** Grams booked on each of some spools since it was last known for certain; those on which nothing was are left out. */
    Map<Long, Double> bookedSinceKnown(Collection<Long> spools) {
        Map<Long, Double> booked = new HashMap<>();
        if (spools.isEmpty()) {
            return booked;
        }
        jdbc.sql("""
                select m.spool_id, -sum(m.milligrams) / 1000.0 as grams from spool_movement m
                where m.spool_id in (:spools) and m.kind in ('USED', 'FAILED', 'PURGED') and m.id > (select coalesce(max(k.id), 0) from spool_movement k
                    where k.spool_id = m.spool_id and k.kind in ('ADDED', 'WEIGHED', 'CORRECTED'))
                group by m.spool_id""").param("spools", spools).query(row -> {
                    booked.put(row.getLong("spool_id"), row.getDouble("grams"));
                });
        return booked;
    }

    double heldAt(long id, Instant at) {
        return jdbc.sql("select coalesce(sum(milligrams), 0) / 1000.0 from spool_movement where spool_id = ? and at < ?").params(id, at.toEpochMilli()).query(Double.class).single();
    }

    List<Movement> movements(long id, int most) {
        return jdbc.sql("""
                select m.*, coalesce(a.username, '') as username from spool_movement m left join account a on a.id = m.by_account
                where m.spool_id = ? order by m.id desc limit ?""").params(id, most).query((row, n) -> new Movement(instant(row, "at"),
                row.getString("username"), Movement.Kind.valueOf(row.getString("kind")), row.getLong("milligrams") / 1000.0,
                row.getString("reason"))).list();
    }

    private static StockSpool read(ResultSet row, int n) throws SQLException {
        Currency currency = Currency.getInstance(row.getString("currency"));
        return new StockSpool(row.getLong("id"), row.getInt("number"), new Spool(row.getString("id"), row.getString("material_id"),
                row.getString("colour"), row.getLong("milligrams") / 1000.0, amount(row.getLong("price_per_kg_minor"), currency), currency),
                row.getString("place"), row.getDouble("net_g"), doubleOrNull(row, "tare_g"), row.getDouble("diameter_mm"),
                row.getString("lot"), dayOrNull(row, "opened_on"), dayOrNull(row, "dried_on"), row.getString("loaded_in"),
                row.getBoolean("retired"));
    }
}
