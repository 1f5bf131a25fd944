package fabbrica.cli;

import fabbrica.core.schedule.FloorView;
import fabbrica.core.schedule.FloorView.Handling;
import fabbrica.core.schedule.FloorView.Limit;
import fabbrica.core.schedule.FloorView.Machine;
import fabbrica.core.schedule.FloorView.Option;
import fabbrica.core.schedule.FloorView.Place;
import fabbrica.core.schedule.FloorView.Waiting;
import fabbrica.core.schedule.Rules;
import fabbrica.core.schedule.Schedule;
import fabbrica.core.schedule.Schedule.Slot;
import fabbrica.core.schedule.Setup;
import fabbrica.core.schedule.Span;
import java.io.IOException;
import java.io.InputStream;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Duration;
import java.time.Instant;
import java.time.LocalDateTime;
import java.time.ZoneOffset;
import java.time.format.DateTimeFormatter;
import java.time.format.DateTimeParseException;
import java.util.ArrayList;
import java.util.Collection;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import org.jspecify.annotations.Nullable;
import tools.jackson.core.JacksonException;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;

/**
 * A floor and what waits for it, as JSON; what the fields mean stands in docs/schedule.md. Local times are taken as UTC: the
 * format knows no clock change. Plates are numbered as the jobs stand in the file.
 */
public record ScheduleFile(FloorView view, List<String> jobs) {

    private static final DateTimeFormatter MINUTE = DateTimeFormatter.ofPattern("uuuu-MM-dd'T'HH:mm");
    private static final JsonMapper MAPPER = new JsonMapper();
    private static final int MOST_MINUTES = 10 * 366 * 24 * 60;
    private static final int MOST_WEIGHT = 1_000_000;

    /** A value and where it stands, for the sentence when it cannot be used. */
    private record Field(String name, @Nullable JsonNode value) {

        Field get(String member) {
            return new Field(name.isEmpty() ? member : name + "." + member, value == null ? null : value.get(member));
        }

        boolean absent() {
            return value == null || value.isNull();
        }

        List<Field> elements() throws IOException {
            if (value == null || !value.isArray()) {
                throw wrong("a list");
            }
            List<Field> elements = new ArrayList<>();
            for (int i = 0; i < value.size(); i++) {
                elements.add(new Field(name + "[" + i + "]", value.get(i)));
            }
            return elements;
        }

        /** A list that may be left out. */
        List<Field> elementsIfAny() throws IOException {
            return absent() ? List.of() : elements();
        }

        String text() throws IOException {
            if (value == null || !value.isString()) {
                throw wrong("a text");
            }
            return value.stringValue();
        }

        int whole(int most) throws IOException {
            if (value == null || !value.isIntegralNumber() || !value.canConvertToInt() || value.intValue() < 0 || value.intValue() > most) {
                throw wrong("a whole number from 0 to " + most);
            }
            return value.intValue();
        }

        Duration minutes() throws IOException {
            return Duration.ofMinutes(whole(MOST_MINUTES));
        }

        boolean flag() throws IOException {
            if (value == null || !value.isBoolean()) {
                throw wrong("true or false");
            }
            return value.booleanValue();
        }

        Instant moment() throws IOException {
            try {
                return LocalDateTime.parse(value != null && value.isString() ? value.stringValue() : "", MINUTE).toInstant(ZoneOffset.UTC);
            } catch (DateTimeParseException e) {
                throw wrong("a moment like 2026-03-02T08:00");
            }
        }

        Span span() throws IOException {
            List<Field> ends = elements();
            if (ends.size() < 2) {
                throw wrong("a list of two moments");
            }
            return new Span(ends.get(0).moment(), ends.get(1).moment());
        }

        IOException wrong(String wanted) {
            return new IOException("“%s” should be %s%s.".formatted(name.isEmpty() ? "the file" : name, wanted,
                    absent() ? " and is missing" : "; there is " + value));
        }
    }

    static ScheduleFile read(Path path) throws IOException {
        try (InputStream in = Files.newInputStream(path)) {
            return read(String.valueOf(path.getFileName()), in);
        }
    }

    /** @throws IOException with a sentence that names the field which cannot be used */
    public static ScheduleFile read(String name, InputStream in) throws IOException {
        Field file = parse(name, in);
        List<String> ids = new ArrayList<>();
        for (Field job : file.get("jobs").elements()) {
            ids.add(unique(job.get("id"), ids));
        }
        Map<String, Place> pinned = new HashMap<>();
        for (Field pin : file.get("pinned").elementsIfAny()) {
            String job = pin.get("job").text();
            if (!ids.contains(job) || pinned.put(job, new Place(pin.get("printer").text(), pin.get("start").moment())) != null) {
                throw pin.get("job").wrong("a job, and no job twice");
            }
        }
        Handling handling = new Handling(file.get("change_minutes").get("colour").minutes(), file.get("change_minutes").get("material").minutes(),
                Duration.ZERO, file.get("clear_minutes").minutes());
        List<Machine> machines = new ArrayList<>();
        Map<String, Boolean> unattended = new HashMap<>();
        for (Field printer : file.get("printers").elements()) {
            String id = unique(printer.get("id"), unattended.keySet());
            unattended.put(id, printer.get("unattended_ok").flag());
            machines.add(new Machine(id, printer.get("ready_at").moment(), false, setup(printer.get("loaded")), spans(printer.get("down")), handling));
        }
        List<Waiting> waiting = new ArrayList<>();
        for (Field job : file.get("jobs").elements()) {
            waiting.add(waiting(job, waiting.size(), unattended, pinned.get(ids.get(waiting.size()))));
        }
        List<Limit> limits = new ArrayList<>();
        for (Field limit : file.get("people").elementsIfAny()) {
            limits.add(new Limit(limit.span(), count(limit)));
        }
        return new ScheduleFile(new FloorView(file.get("horizon_start").moment(), spans(file.get("staffed")), List.of(), limits, Map.of(), machines,
                waiting, Rules.OF_THE_FILE), ids);
    }

    private static Field parse(String name, InputStream in) throws IOException {
        try {
            return new Field("", MAPPER.readTree(in));
        } catch (JacksonException e) {
            throw new IOException("%s is not JSON: %s".formatted(name, e.getOriginalMessage()), e);
        }
    }

    private static Waiting waiting(Field job, long number, Map<String, Boolean> unattended, @Nullable Place pinned) throws IOException {
        List<Option> options = new ArrayList<>();
        for (Field option : job.get("options").elements()) {
            String printer = option.get("printer").text();
            if (!unattended.containsKey(printer)) {
                throw option.get("printer").wrong("one of the printers");
            }
            options.add(new Option(printer, setup(job), option.get("minutes").minutes(), Duration.ZERO, 0, unattended.get(printer), 0));
        }
        return new Waiting(number, options, job.get("release").moment(), job.get("due").moment(), job.get("weight").whole(MOST_WEIGHT), 0, pinned, null);
    }

    private static Setup setup(Field field) throws IOException {
        return new Setup(field.get("material").text(), field.get("colour").text(), "", 0);
    }

    private static List<Span> spans(Field field) throws IOException {
        List<Span> spans = new ArrayList<>();
        for (Field span : field.elements()) {
            spans.add(span.span());
        }
        return spans;
    }

    private static int count(Field limit) throws IOException {
        List<Field> parts = limit.elements();
        if (parts.size() != 3) {
            throw limit.wrong("two moments and a count");
        }
        return parts.get(2).whole(MOST_WEIGHT);
    }

    private static String unique(Field id, Collection<String> before) throws IOException {
        if (before.contains(id.text())) {
            throw id.wrong("a name that no other has");
        }
        return id.text();
    }

    /** What a job is called; a plan may name one that there is not. */
    String name(long job) {
        return job < 0 ? "A job that is not in the file" : jobs.get((int) job);
    }

    /** The slots of a plan as a document: a list of job, printer, start and end. */
    List<Map<String, Object>> document(Schedule schedule) {
        return schedule.slots().stream().map(slot -> Json.object("job", name(slot.plate()), "printer", slot.machine(),
                "start", MINUTE.format(slot.start().atOffset(ZoneOffset.UTC)), "end", MINUTE.format(slot.end().atOffset(ZoneOffset.UTC)))).toList();
    }

    /**
     * A plan for this floor that was written by anybody.
     *
     * @throws IOException when it is not a plan
     */
    Schedule readPlan(Path path) throws IOException {
        List<Slot> slots = new ArrayList<>();
        List<Field> rows;
        try (InputStream in = Files.newInputStream(path)) {
            rows = parse(String.valueOf(path.getFileName()), in).elements();
        }
        for (Field row : rows) {
            Instant start = row.get("start").moment(), end = row.get("end").moment();
            int job = jobs.indexOf(row.get("job").text());
            Setup setup = job < 0 ? Setup.EMPTY : view.waiting().get(job).options().stream().findFirst().map(Option::setup).orElse(Setup.EMPTY);
            slots.add(new Slot(job, row.get("printer").text(), setup, null, start, start, end, end, List.of()));
        }
        return new Schedule(slots);
    }
}
