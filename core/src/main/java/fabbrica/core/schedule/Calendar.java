package fabbrica.core.schedule;

import fabbrica.core.units.OutOfRange;
import java.time.DayOfWeek;
import java.time.Duration;
import java.time.Instant;
import java.time.LocalDate;
import java.time.ZoneId;
import java.util.ArrayList;
import java.util.Collections;
import java.util.Comparator;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.TreeMap;
import java.util.stream.Stream;

/**
 * When somebody is in the lab: hours of each weekday, with breaks, and days that are not like others. Where a clock is put
 * forward or back, hours are those that the clock on the wall shows.
 *
 * @param weekdays    a weekday that is not named is closed
 * @param specialDays hours in place of the weekday's; without hours it is closed
 */
public record Calendar(ZoneId zone, Map<DayOfWeek, List<Hours>> weekdays, Map<LocalDate, List<Hours>> specialDays) {

    /** Farther ahead nothing is looked for. */
    private static final int MOST_DAYS = 400;
    private static final int MINUTES_A_DAY = 24 * 60;

    /** @param fromMin minutes from midnight on the wall, as is {@code toMin}; midnight at the end of a day is 1440 */
    public record Hours(int fromMin, int toMin) {

        public Hours {
            if (fromMin < 0 || toMin <= fromMin || toMin > MINUTES_A_DAY) {
                throw new OutOfRange("Hours begin before they end, on one day.");
            }
        }

        public static Hours of(int fromHour, int toHour) {
            return new Hours(60 * fromHour, 60 * toHour);
        }
    }

    public Calendar {
        weekdays = inOrder(weekdays);
        specialDays = inOrder(specialDays);
        weekdays.values().forEach(Calendar::check);
        specialDays.values().forEach(Calendar::check);
    }

    private static <K extends Comparable<? super K>> Map<K, List<Hours>> inOrder(Map<K, List<Hours>> days) {
        Map<K, List<Hours>> inOrder = new TreeMap<>();
        days.forEach((day, hours) -> inOrder.put(day, List.copyOf(hours)));
        return Collections.unmodifiableMap(inOrder);
    }

    private static void check(List<Hours> hours) {
        for (int i = 1; i < hours.size(); i++) {
            if (hours.get(i).fromMin() <= hours.get(i - 1).toMin()) {
                throw new OutOfRange("Hours of one day follow one another with a break between.");
            }
        }
    }

    /** The same weeks, without the days that are not like others. */
    public Calendar everyWeek() {
        return new Calendar(zone, weekdays, Map.of());
    }

    /** The same, but that a day is over at a minute; one that has not begun then is closed. */
    public Calendar endingAt(LocalDate day, int minute) {
        Map<LocalDate, List<Hours>> days = new TreeMap<>(specialDays);
        days.put(day, on(day).stream().filter(hours -> hours.fromMin() < minute).map(hours -> new Hours(hours.fromMin(), Math.min(minute, hours.toMin()))).toList());
        return new Calendar(zone, weekdays, days);
    }

    public boolean isNeverStaffed() {
        return Stream.concat(weekdays.values().stream(), specialDays.values().stream()).allMatch(List::isEmpty);
    }

    /** Hours of a day, in their order. */
    public List<Hours> on(LocalDate day) {
        List<Hours> special = specialDays.get(day);
        return special != null ? special : weekdays.getOrDefault(day.getDayOfWeek(), List.of());
    }

    /** Staffed time on a day, in its order; what goes on past midnight goes on there. */
    private List<Span> staffed(LocalDate day) {
        return on(day).stream().map(hours -> new Span(at(day, hours.fromMin()), at(day, hours.toMin())))
                .filter(staffed -> staffed.from().isBefore(staffed.to())).toList();
    }

    /** All staffed time that overlaps a stretch of time, joined where it goes on over midnight, not cut at its ends. */
    public List<Span> between(Instant from, Instant to) {
        List<Span> joined = new ArrayList<>();
        LocalDate last = to.atZone(zone).toLocalDate().plusDays(1);
        for (LocalDate day = from.atZone(zone).toLocalDate().minusDays(1); !day.isAfter(last); day = day.plusDays(1)) {
            for (Span staffed : staffed(day)) {
                if (!joined.isEmpty() && !joined.getLast().to().isBefore(staffed.from())) {
                    joined.set(joined.size() - 1, new Span(joined.getLast().from(), staffed.to()));
                } else {
                    joined.add(staffed);
                }
            }
        }
        return joined.stream().filter(staffed -> !staffed.to().isBefore(from) && !staffed.from().isAfter(to)).toList();
    }

    /** The staffed time in which a moment lies. */
    public Optional<Span> at(Instant moment) {
        return between(moment, moment).stream().findFirst();
    }

    /**
     * The first staffed time that has room for some work, from a moment on: its start is when the work can begin.
     *
     * @return nothing when there is none within 400 days
     */
    public Optional<Span> roomFor(Duration work, Instant from) {
        LocalDate first = from.atZone(zone).toLocalDate();
        for (int ahead = 0; ahead < MOST_DAYS; ahead += 7) {
            Optional<Span> found = between(at(first.plusDays(ahead), 0), at(first.plusDays(ahead + 7), 0)).stream()
                    .filter(staffed -> !staffed.to().isBefore(from))
                    .map(staffed -> new Span(staffed.from().isBefore(from) ? from : staffed.from(), staffed.to()))
                    .filter(staffed -> staffed.length().compareTo(work) >= 0).min(Comparator.comparing(Span::from));
            if (found.isPresent()) {
                return found;
            }
        }
        return Optional.empty();
    }

    /** The first moment from one on at which somebody is there; nothing within 400 days when nobody comes. */
    public Optional<Instant> nextStaffed(Instant from) {
        return roomFor(Duration.ZERO, from).map(Span::from);
    }

    private Instant at(LocalDate day, int minute) {
        return minute == MINUTES_A_DAY ? day.plusDays(1).atStartOfDay(zone).toInstant()
                : day.atTime(minute / 60, minute % 60).atZone(zone).toInstant();
    }
}
