package fabbrica.web.stores;

import static fabbrica.web.platform.storage.Columns.doubleOrNull;
import static fabbrica.web.platform.storage.Columns.instant;

import fabbrica.core.schedule.Task;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.time.Duration;
import java.time.Instant;
import java.util.Arrays;
import java.util.LinkedHashMap;
import java.util.Map;
import java.util.Optional;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Repository;

/** The SQL of what is to be done on printers, and of the hours they have run. */
@Repository
class MaintenanceRepository {

    private static final String TASKS = """
            select t.*, coalesce(d.at, t.since) as last_at, coalesce(d.hours, t.since_hours) as last_hours, d.at is not null as ever,
                (select hours_before from printer p where p.id = t.printer_id)
                    + coalesce((select sum(real_minutes) from run r where r.printer_id = t.printer_id), 0) / 60 as hours_now
            from maintenance_task t left join maintenance_done d on d.task_id = t.id
                and d.at = (select max(at) from maintenance_done l where l.task_id = t.id)""";

    private final JdbcClient jdbc;

    MaintenanceRepository(JdbcClient jdbc) {
        this.jdbc = jdbc;
    }

    /** All tasks, each with the hours its printer has run by now. */
    Map<MaintenanceTask, Double> all() {
        Map<MaintenanceTask, Double> all = new LinkedHashMap<>();
        jdbc.sql(TASKS + " order by t.printer_id, t.what").query(row -> {
            all.put(read(row, 0), row.getDouble("hours_now"));
        });
        return all;
    }

    Optional<MaintenanceTask> task(long id) {
        return jdbc.sql(TASKS + " where t.id = ?").params(id).query(MaintenanceRepository::read).optional();
    }

    void insert(MaintenanceTask task) {
        jdbc.sql("insert into maintenance_task (printer_id, what, every_hours, every_days, since, since_hours, takes_min, who) values (?, ?, ?, ?, ?, ?, ?, ?)")
                .params(Arrays.asList(task.printerId(), task.what(), task.routine().everyHours(), task.routine().everyDays(), task.lastAt().toEpochMilli(), task.lastHours(),
                        task.routine().takes().toSeconds() / 60.0, task.routine().who().name())).update();
    }

    void delete(long id) {
        jdbc.sql("delete from maintenance_task where id = ?").params(id).update();
    }

    void insertDone(long task, Instant at, String who, double hours) {
        jdbc.sql("""
                insert into maintenance_done (task_id, at, by_account, hours)
                values (?, ?, (select id from account where username = ? collate nocase), ?)""")
                .params(task, at.toEpochMilli(), who, hours).update();
    }

    /** Hours that each printer has run in all. */
    Map<String, Double> hours() {
        Map<String, Double> hours = new LinkedHashMap<>();
        jdbc.sql("""
                select id, hours_before + coalesce((select sum(real_minutes) from run where printer_id = printer.id), 0) / 60 as hours
                from printer""").query(row -> {
                    hours.put(row.getString("id"), row.getDouble("hours"));
                });
        return hours;
    }

    private static MaintenanceTask read(ResultSet row, int n) throws SQLException {
        long days = row.getLong("every_days");
        Integer everyDays = row.wasNull() ? null : (int) days;
        Routine routine = new Routine(row.getString("what"), doubleOrNull(row, "every_hours"), everyDays, Duration.ofSeconds(Math.round(row.getDouble("takes_min") * 60)),
                Task.valueOf(row.getString("who")));
        return new MaintenanceTask(row.getLong("id"), row.getString("printer_id"), routine, instant(row, "last_at"), row.getDouble("last_hours"), row.getBoolean("ever"));
    }
}
