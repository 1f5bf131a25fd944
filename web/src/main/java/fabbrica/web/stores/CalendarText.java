package fabbrica.web.stores;

import fabbrica.core.schedule.Calendar;
import fabbrica.core.schedule.Calendar.Hours;
import fabbrica.core.units.OutOfRange;
import java.time.DayOfWeek;
import java.time.LocalDate;
import java.time.ZoneId;
import java.time.format.DateTimeParseException;
import java.time.format.TextStyle;
import java.util.ArrayList;
import java.util.EnumMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.TreeMap;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import java.util.stream.Collectors;

/**
 * Hours as people write them: for each weekday “10:00-13:00, 14:00-20:00”, empty when it is closed; special days one a
 * line: the date, its hours or “closed”, and what it is.
 */
public final class CalendarText {

    private static final Pattern SPAN = Pattern.compile("(\\d{1,2})[:.](\\d{2})\\s*[-–]\\s*(\\d{1,2})[:.](\\d{2})");
    private static final Pattern SPECIAL = Pattern.compile("(\\d{4}-\\d{2}-\\d{2})\\s+(closed|[\\d:.,\\s–-]*\\d)\\s*(.*)");

    private CalendarText() {
    }

    /** What a special day is, beside its hours. */
    public record Notes(Map<LocalDate, String> byDay) {

        public Notes with(LocalDate day, String note) {
            Map<LocalDate, String> more = new TreeMap<>(byDay);
            more.put(day, note);
            return new Notes(more);
        }
    }

    public static String name(DayOfWeek day) {
        return day.getDisplayName(TextStyle.FULL, Locale.ENGLISH);
    }

    public static String hours(List<Hours> hours) {
        return hours.stream().map(h -> clock(h.fromMin()) + "-" + clock(h.toMin())).collect(Collectors.joining(", "));
    }

    public static String special(Calendar calendar, Notes notes) {
        return new TreeMap<>(calendar.specialDays()).entrySet().stream().map(day -> (day.getKey() + " "
                + (day.getValue().isEmpty() ? "closed" : hours(day.getValue())) + " "
                + notes.byDay().getOrDefault(day.getKey(), "")).strip()).collect(Collectors.joining("\n"));
    }

    /** All weekdays in a few words: those with the same hours together, such as “Mon to Fri 10:00-20:00”. */
    public static String spoken(Calendar calendar) {
        List<String> parts = new ArrayList<>();
        DayOfWeek[] days = DayOfWeek.values();
        for (int i = 0; i < days.length; ) {
            List<Hours> hours = calendar.weekdays().getOrDefault(days[i], List.of());
            int last = i;
            while (last + 1 < days.length && calendar.weekdays().getOrDefault(days[last + 1], List.of()).equals(hours)) {
                last++;
            }
            if (!hours.isEmpty()) {
                parts.add(brief(days[i]) + (last > i ? (last > i + 1 ? " to " : " and ") + brief(days[last]) : "") + " " + hours(hours));
            }
            i = last + 1;
        }
        return parts.isEmpty() ? "never" : String.join("; ", parts);
    }

    /** @throws OutOfRange with a sentence when a line cannot be read */
    public static Calendar read(ZoneId zone, Map<DayOfWeek, String> weekdays, String special, Map<LocalDate, String> notes) {
        Map<DayOfWeek, List<Hours>> byDay = new EnumMap<>(DayOfWeek.class);
        weekdays.forEach((day, text) -> byDay.put(day, hours(text)));
        Map<LocalDate, List<Hours>> days = new LinkedHashMap<>();
        for (String line : special.lines().map(String::strip).filter(text -> !text.isEmpty()).toList()) {
            Matcher day = SPECIAL.matcher(line);
            if (!day.matches()) {
                throw new OutOfRange("A special day takes a date, its hours or “closed”, and what it is, such as "
                        + "“2026-12-24 10:00-13:00 Christmas Eve”; “%s” was given.".formatted(line));
            }
            LocalDate date = date(day.group(1));
            days.put(date, day.group(2).equals("closed") ? List.of() : hours(day.group(2)));
            notes.put(date, day.group(3));
        }
        return new Calendar(zone, byDay, days);
    }

    private static LocalDate date(String text) {
        try {
            return LocalDate.parse(text);
        } catch (DateTimeParseException e) {
            throw new OutOfRange("There is no day “%s”.".formatted(text));
        }
    }

    private static List<Hours> hours(String text) {
        List<Hours> hours = new ArrayList<>();
        for (String span : text.split(",")) {
            if (!span.isBlank()) {
                Matcher times = SPAN.matcher(span.strip());
                if (!times.matches()) {
                    throw new OutOfRange("Hours read like “10:00-13:00, 14:00-20:00”; “%s” was given.".formatted(text.strip()));
                }
                hours.add(new Hours(minute(times.group(1), times.group(2)), minute(times.group(3), times.group(4))));
            }
        }
        return hours;
    }

    private static int minute(String hour, String minute) {
        return 60 * Integer.parseInt(hour) + Integer.parseInt(minute);
    }

    private static String clock(int minute) {
        return "%02d:%02d".formatted(minute / 60, minute % 60);
    }

    private static String brief(DayOfWeek day) {
        return day.getDisplayName(TextStyle.SHORT, Locale.ENGLISH);
    }
}
