package fabbrica.web.stores;

import fabbrica.core.schedule.Calendar;
import fabbrica.core.schedule.Calendar.Hours;
import fabbrica.core.schedule.Task;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.time.DayOfWeek;
import java.time.LocalDate;
import java.time.ZoneId;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.EnumMap;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.stream.Collectors;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Repository;

/** Who has a key, in the database. */
@Repository
class KeyholderRepository {

    private static final String BETWEEN = " ";

    private final JdbcClient jdbc;

    KeyholderRepository(JdbcClient jdbc) {
        this.jdbc = jdbc;
    }

    /** By name. */
    List<Keyholder> all(ZoneId zone) {
        Map<Long, Map<DayOfWeek, List<Hours>>> weekdays = new HashMap<>();
        jdbc.sql("select * from keyholder_hours order by weekday, from_min").query(row -> {
            weekdays.computeIfAbsent(row.getLong("keyholder_id"), any -> new EnumMap<>(DayOfWeek.class))
                    .computeIfAbsent(DayOfWeek.of(row.getInt("weekday")), day -> new ArrayList<>()).add(hours(row));
        });
        Map<Long, Map<LocalDate, List<Hours>>> special = new HashMap<>();
        Map<Long, Map<LocalDate, String>> notes = new HashMap<>();
        jdbc.sql("""
                select d.keyholder_id, d.day, d.note, h.from_min, h.to_min
                from keyholder_day d left join keyholder_day_hours h on h.keyholder_id = d.keyholder_id and h.day = d.day
                order by d.day, h.from_min""").query(row -> {
                    LocalDate day = LocalDate.parse(row.getString("day"));
                    notes.computeIfAbsent(row.getLong("keyholder_id"), any -> new LinkedHashMap<>()).put(day, row.getString("note"));
                    List<Hours> hours = special.computeIfAbsent(row.getLong("keyholder_id"), any -> new LinkedHashMap<>())
                            .computeIfAbsent(day, any -> new ArrayList<>());
                    if (row.getObject("from_min") != null) {
                        hours.add(hours(row));
                    }
                });
        return jdbc.sql("select * from keyholder order by name").query((row, n) -> new Keyholder(row.getLong("id"), row.getString("name"),
                may(row.getString("may")), new Calendar(zone, weekdays.getOrDefault(row.getLong("id"), Map.of()),
                special.getOrDefault(row.getLong("id"), Map.of())), new CalendarText.Notes(notes.getOrDefault(row.getLong("id"), Map.of())))).list();
    }

    private static Set<Task> may(String names) {
        return Arrays.stream(names.split(BETWEEN)).filter(name -> !name.isEmpty()).map(Task::valueOf).collect(Collectors.toSet());
    }

    private static Hours hours(ResultSet row) throws SQLException {
        return new Hours(row.getInt("from_min"), row.getInt("to_min"));
    }

    /** One that is not known yet has the number 0; all other numbers are kept. */
    void save(Keyholder one) {
        String may = one.may().stream().sorted().map(Task::name).collect(Collectors.joining(BETWEEN));
        long id = one.id() == 0 ? jdbc.sql("insert into keyholder (name, may) values (?, ?) returning id").params(one.name(), may).query(Long.class).single()
                : jdbc.sql("update keyholder set name = ?, may = ? where id = ? returning id").params(one.name(), may, one.id()).query(Long.class).single();
        jdbc.sql("delete from keyholder_hours where keyholder_id = ?").params(id).update();
        one.hours().weekdays().forEach((day, hours) -> hours.forEach(h -> jdbc.sql(
                "insert into keyholder_hours (keyholder_id, weekday, from_min, to_min) values (?, ?, ?, ?)").params(id, day.getValue(), h.fromMin(), h.toMin()).update()));
        jdbc.sql("delete from keyholder_day where keyholder_id = ?").params(id).update();
        one.hours().specialDays().forEach((day, hours) -> {
            jdbc.sql("insert into keyholder_day (keyholder_id, day, note) values (?, ?, ?)").params(id, day.toString(),
                    one.notes().byDay().getOrDefault(day, "")).update();
            hours.forEach(h -> jdbc.sql("insert into keyholder_day_hours (keyholder_id, day, from_min, to_min) values (?, ?, ?, ?)")
                    .params(id, day.toString(), h.fromMin(), h.toMin()).update());
        });
    }

    void delete(long id) {
        jdbc.sql("delete from keyholder where id = ?").params(id).update();
    }
}
