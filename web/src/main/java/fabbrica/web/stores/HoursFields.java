package fabbrica.web.stores;

import fabbrica.core.schedule.Calendar;
import fabbrica.core.units.OutOfRange;
import fabbrica.web.platform.FormValues;
import java.time.DayOfWeek;
import java.time.LocalDate;
import java.time.ZoneId;
import java.util.Arrays;
import java.util.EnumMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.stream.Collectors;
import org.springframework.util.MultiValueMap;

/** The fields of a form in which hours of a week and days that are not like others stand. */
final class HoursFields {

    /** Names of the weekdays, by their fields. */
    static final Map<String, String> DAYS = Arrays.stream(DayOfWeek.values()).collect(Collectors.toMap(DayOfWeek::name, CalendarText::name, (a, b) -> a,
            LinkedHashMap::new));

    private static final String SPECIAL = "special";

    private HoursFields() {
    }

    static void put(Calendar calendar, CalendarText.Notes notes, MultiValueMap<String, String> values) {
        for (DayOfWeek day : DayOfWeek.values()) {
            values.set(day.name(), CalendarText.hours(calendar.weekdays().getOrDefault(day, List.of())));
        }
        values.set(SPECIAL, CalendarText.special(calendar, notes));
    }

    /**
     * @param notes are put there
     * @throws OutOfRange with a sentence when a line cannot be read
     */
    static Calendar read(FormValues form, ZoneId zone, Map<LocalDate, String> notes) {
        Map<DayOfWeek, String> weekdays = new EnumMap<>(DayOfWeek.class);
        for (DayOfWeek day : DayOfWeek.values()) {
            weekdays.put(day, form.text(day.name()));
        }
        return CalendarText.read(zone, weekdays, form.text(SPECIAL), notes);
    }
}
