package fabbrica.cli;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import java.io.PrintWriter;
import java.io.StringWriter;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/** One day from nine to five, two printers of which one may run alone, three jobs; the plans are worked out by hand. */
class ScheduleCommandTest {

    private static final String FLOOR = """
            { "horizon_start": "2026-03-02T08:00",
              "staffed": [["2026-03-02T09:00", "2026-03-02T17:00"]],
              "printers": [
                {"id": "A", "ready_at": "2026-03-02T08:00", "loaded": {"material": "PLA", "colour": "red"}, "nozzle_mm": 0.4,
                 "unattended_ok": true, "bed_mm": [200, 200, 200], "down": []},
                {"id": "B", "ready_at": "2026-03-02T08:00", "loaded": {"material": "PLA", "colour": "blue"}, "nozzle_mm": 0.4,
                 "unattended_ok": false, "bed_mm": [200, 200, 200], "down": [["2026-03-02T10:00", "2026-03-02T12:00"]]}],
              "jobs": [
                {"id": "J1", "release": "2026-03-02T08:00", "due": "2026-03-02T11:00", "weight": 2, "material": "PLA", "colour": "red",
                 "options": [{"printer": "A", "minutes": 100}, {"printer": "B", "minutes": 90}], "member": "m"},
                {"id": "J2", "release": "2026-03-02T08:00", "due": "2026-03-02T10:00", "weight": 1, "material": "PLA", "colour": "blue",
                 "options": [{"printer": "B", "minutes": 60}], "member": "m"},
                {"id": "J3", "release": "2026-03-02T16:00", "due": "2026-03-02T18:00", "weight": 1, "material": "PETG", "colour": "red",
                 "options": [{"printer": "A", "minutes": 600}, {"printer": "B", "minutes": 600}], "member": "m"}],
              "change_minutes": {"colour": 6, "material": 12}, "clear_minutes": 5 }
            """;

    /** J1 and J2 start at nine; J3 is released at four and cannot run on B after five. */
    private static final String BEST = """
            [{"job": "J1", "printer": "A", "start": "2026-03-02T09:00", "end": "2026-03-02T10:40"},
             {"job": "J2", "printer": "B", "start": "2026-03-02T09:00", "end": "2026-03-02T10:00"},
             {"job": "J3", "printer": "A", "start": "2026-03-02T16:00", "end": "2026-03-03T02:00"}]
            """;
    /** 480 minutes late; twelve minutes of changing; 160 + 120 + 1080 minutes from eight o'clock. */
    private static final long LEAST = 1000 * 480 + 10 * 12 + 160 + 120 + 1080;

    @TempDir
    private Path folder;

    private final StringWriter out = new StringWriter();
    private final StringWriter err = new StringWriter();

    @Test
    void the_best_plan_is_found_and_verified() throws IOException {
        String in = file("in.json", FLOOR), to = folder.resolve("out.json").toString();
        assertThat(run("schedule", in, "--seconds", "0.2", "-o", to)).isZero();
        assertThat(out.toString()).startsWith("objective " + LEAST + ":");
        assertThat(run("schedule", "--verify", in, to)).isZero();
        assertThat(run("schedule", "--verify", in, file("best.json", BEST))).isZero();
        assertThat(Files.readString(Path.of(to)).replaceAll("\\s", "")).isEqualTo(BEST.replaceAll("\\s", ""));
    }

    @ParameterizedTest
    @CsvSource(delimiter = '|', textBlock = """
            "A", "start": "2026-03-02T09:00", "end": "2026-03-02T10:40" | "A", "start": "2026-03-02T09:00", "end": "2026-03-02T10:39" | J1 takes 100 min on A, not 99.
            "J2", "printer": "B"   | "J2", "printer": "A"   | J2 may not be printed on A.
            "J2", "printer": "B"   | "J9", "printer": "B"   | A job that is not in the file is not one of the plates that wait.
            "J2", "printer": "B"   | "J1", "printer": "B"   | J1 is planned more than once.
            T16:00", "end": "2026-03-03T02:00 | T15:59", "end": "2026-03-03T01:59 | J3 starts before it is released.
            T16:00", "end": "2026-03-03T02:00 | T17:01", "end": "2026-03-03T03:01 | Work and start of J3 are not within one stretch of staffed time.
            "2026-03-02T09:00", "end": "2026-03-02T10:00" | "2026-03-02T09:01", "end": "2026-03-02T10:01" | J2 is on B while that is down.
            "J3", "printer": "A" | "J3", "printer": "B" | J3 runs on B while nobody is there.
            "2026-03-02T16:00", "end": "2026-03-03T02:00" | "2026-03-02T10:50", "end": "2026-03-02T20:50" | Work at J3 on A begins before J1 is done.
            """)
    void each_broken_rule_is_said(String from, String to, String sentence) throws IOException {
        assertThat(BEST).contains(from.strip());
        assertThat(run("schedule", "--verify", file("in.json", FLOOR), file("out.json", BEST.replace(from.strip(), to.strip())))).isEqualTo(1);
        assertThat(out.toString().lines()).contains(sentence);
    }

    @Test
    void what_cannot_be_planned_is_said_and_the_rest_is_planned() throws IOException {
        String nobody = file("in.json", FLOOR.replace("\"minutes\": 60", "\"minutes\": 700"));
        Path to = folder.resolve("out.json");
        assertThat(run("schedule", nobody, "--seconds", "0.1", "-o", to.toString())).isEqualTo(1);
        assertThat(out.toString()).isEqualTo("J2 is not planned.\n");
        assertThat(Files.readString(to)).contains("J1", "J3").doesNotContain("J2");
    }

    @Test
    void what_is_pinned_is_kept_and_so_few_people_do_one_thing_at_a_time() throws IOException {
        String in = file("in.json", FLOOR.replace("\"clear_minutes\": 5", """
                "clear_minutes": 5, "people": [["2026-03-02T08:00", "2026-03-02T17:00", 1]],
                "pinned": [{"job": "J2", "printer": "B", "start": "2026-03-02T12:30"}]"""));
        String to = folder.resolve("out.json").toString();
        assertThat(run("schedule", in, "--seconds", "0.1", "-o", to)).isZero();
        assertThat(Files.readString(Path.of(to))).contains("\"job\":\"J2\",\"printer\":\"B\",\"start\":\"2026-03-02T12:30\"");
        String two = file("two.json", BEST);
        assertThat(run("schedule", "--verify", in, two)).isEqualTo(1);
        assertThat(out.toString().lines()).contains("J2 is not where it is pinned.", "With J1 more goes on than 1 can do.");
    }

    @ParameterizedTest
    @CsvSource(delimiter = '|', textBlock = """
            "weight": 2                        | "weight": -2        | “jobs[0].weight” should be a whole number from 0 to 1000000; there is -2.
            "due": "2026-03-02T11:00",         | ''                  | “jobs[0].due” should be a moment like 2026-03-02T08:00 and is missing.
            "due": "2026-03-02T11:00"          | "due": "tomorrow"   | “jobs[0].due” should be a moment like 2026-03-02T08:00; there is "tomorrow".
            "id": "J2"                         | "id": "J1"          | “jobs[1].id” should be a name that no other has; there is "J1".
            {"printer": "B", "minutes": 60}    | {"printer": "C", "minutes": 60} | “jobs[1].options[0].printer” should be one of the printers; there is "C".
            ["2026-03-02T09:00", "2026-03-02T17:00"] | 9             | “staffed[0]” should be a list; there is 9.
            "clear_minutes": 5 }               | "clear_minutes": 5  | in.json is not JSON
            """)
    void what_cannot_be_read_exits_with_2_and_names_the_field(String from, String to, String sentence) throws IOException {
        assertThat(FLOOR).contains(from.strip());
        assertThat(run("schedule", file("in.json", FLOOR.replace(from.strip(), to.strip())), "-o", folder.resolve("out.json").toString())).isEqualTo(2);
        assertThat(err.toString()).startsWith(sentence);
        assertThat(List.of(folder.toFile().list())).containsExactly("in.json");
    }

    private String file(String name, String content) throws IOException {
        return Files.writeString(folder.resolve(name), content).toString();
    }

    private int run(String... arguments) {
        out.getBuffer().setLength(0);
        err.getBuffer().setLength(0);
        return Fabbrica.run(arguments, new PrintWriter(out, true), new PrintWriter(err, true));
    }
}
