package fabbrica.web.machine;

import static fabbrica.web.platform.storage.Columns.doubleOrNull;
import static fabbrica.web.platform.storage.Columns.instantOrNull;
import static fabbrica.web.platform.storage.Columns.longOrNull;

import fabbrica.core.run.MachineEvent.Spent;
import fabbrica.web.machine.MachineFile.Over;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.time.Instant;
import java.util.Arrays;
import java.util.List;
import java.util.Optional;
import org.jspecify.annotations.Nullable;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Repository;

/** The SQL of machines and of the files on them. */
@Repository
class MachineRepository {

    private static final String FILES = """
            select f.*, coalesce(a.username, '') as orderer from machine_file f left join account a on a.id = f.ordered_by""";

    private final JdbcClient jdbc;

    MachineRepository(JdbcClient jdbc) {
        this.jdbc = jdbc;
    }

    Optional<MachineAddress> address(String printerId) {
        return jdbc.sql("select * from machine where printer_id = ?").params(printerId).query(MachineRepository::readAddress).optional();
    }

    private static MachineAddress readAddress(ResultSet row, int number) throws SQLException {
        Long camera = longOrNull(row, "camera_port");
        return new MachineAddress(row.getString("printer_id"), row.getString("host"), row.getInt("port"), camera == null ? null : camera.intValue(),
                row.getString("uuid"), row.getString("calls"));
    }

    void save(MachineAddress address) {
        jdbc.sql("""
                insert into machine (printer_id, host, port, camera_port, uuid, calls) values (?, ?, ?, ?, ?, ?)
                on conflict (printer_id) do update set host = excluded.host, port = excluded.port, camera_port = excluded.camera_port,
                    uuid = excluded.uuid, calls = excluded.calls""")
                .params(Arrays.asList(address.printerId(), address.host(), address.port(), address.cameraPort(), address.uuid(), address.calls())).update();
    }

    void delete(String printerId) {
        jdbc.sql("delete from machine where printer_id = ?").params(printerId).update();
    }

    void insert(MachineFile file, Instant at) {
        jdbc.sql("""
                insert into machine_file (file, printer_id, plate_id, hash, sha256, mark, checked, layers, sent_at) values (?, ?, ?, ?, ?, ?, ?, ?, ?)""")
                .params(Arrays.asList(file.file(), file.printerId(), file.plateId(), file.hash(), file.sha256(), file.mark(), file.checked() ? 1 : 0, file.layers(),
                        at.toEpochMilli())).update();
    }

    /** Those on a machine that nobody has cleared, the latest first. */
    List<MachineFile> open(String printerId) {
        return jdbc.sql(FILES + " where f.printer_id = ? and f.cleared_at is null order by f.sent_at desc").params(printerId).query(MachineRepository::readFile).list();
    }

    Optional<MachineFile> file(String name) {
        return jdbc.sql(FILES + " where f.file = ?").params(name).query(MachineRepository::readFile).optional();
    }

    Optional<MachineFile> ofRun(long runId) {
        return jdbc.sql(FILES + " where f.run_id = ?").params(runId).query(MachineRepository::readFile).optional();
    }

    private static MachineFile readFile(ResultSet row, int number) throws SQLException {
        Instant over = instantOrNull(row, "over_at");
        Double seconds = doubleOrNull(row, "seconds");
        return new MachineFile(row.getString("file"), row.getString("printer_id"), row.getLong("plate_id"), row.getString("hash"), row.getString("sha256"),
                row.getString("mark"), row.getBoolean("checked"), row.getInt("layers"), instantOrNull(row, "ordered_at"), row.getString("orderer"),
                longOrNull(row, "run_id"), row.getInt("layer"), row.getDouble("filament_mm"),
                over == null || seconds == null ? null : new Over(over, row.getBoolean("whole"), seconds, spent(row)));
    }

    private static @Nullable Spent spent(ResultSet row) throws SQLException {
        Double heating = doubleOrNull(row, "heating_s");
        return heating == null ? null : new Spent(heating, row.getDouble("readying_s"), row.getDouble("paused_s"));
    }

    /** Those whose plate waits; an order that was not carried out gives way to a new one. */
    boolean order(String file, Instant at, String who) {
        return jdbc.sql("""
                update machine_file set ordered_at = ?, ordered_by = (select id from account where username = ? collate nocase)
                where file = ? and ordered_at is null and cleared_at is null""").params(at.toEpochMilli(), who, file).update() == 1;
    }

    void lapse(String file) {
        jdbc.sql("update machine_file set ordered_at = null, ordered_by = null where file = ? and run_id is null").params(file).update();
    }

    void begun(String file, long runId) {
        jdbc.sql("update machine_file set run_id = ? where file = ? and run_id is null").params(runId, file).update();
    }

    void progress(MachineFile file) {
        jdbc.sql("update machine_file set layer = ?, filament_mm = ? where file = ? and over_at is null").params(file.layer(), file.filamentMm(), file.file()).update();
    }

    void expect(long runId, Instant end) {
        jdbc.sql("update run set expected_at = ? where id = ? and state = 'RUNNING'").params(end.toEpochMilli(), runId).update();
    }

    /** Tells whether it was not over before. */
    boolean over(MachineFile file, Over over) {
        Spent spent = over.spent();
        return jdbc.sql("""
                update machine_file set over_at = ?, whole = ?, seconds = ?, heating_s = ?, readying_s = ?, paused_s = ?, layer = ?, filament_mm = ?
                where file = ? and over_at is null""").params(Arrays.asList(over.at().toEpochMilli(), over.whole() ? 1 : 0, over.seconds(),
                        spent == null ? null : spent.heatingS(), spent == null ? null : spent.readyingS(), spent == null ? null : spent.pausedS(),
                        file.layer(), file.filamentMm(), file.file())).update() == 1;
    }

    void clear(String file, Instant at) {
        jdbc.sql("update machine_file set cleared_at = ?, sha256 = null where file = ?").params(at.toEpochMilli(), file).update();
    }

    boolean isCleared(String file) {
        return jdbc.sql("select cleared_at is not null from machine_file where file = ?").params(file).query(Boolean.class).single();
    }

    List<Long> tickets(long plateId) {
        return jdbc.sql("select distinct ticket_id from plate_copy where plate_id = ? order by ticket_id").params(plateId).query(Long.class).list();
    }
}
