package fabbrica.core.gcode;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.io.ByteArrayInputStream;
import java.io.IOException;
import java.io.InputStream;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.List;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.ValueSource;

/** The words of a line as NIST's RS274/NGC interpreter report (NISTIR 6556, chapter 3.3) has them. */
class GcodeReaderTest {

    /** What a line said, taken down before the reader goes on to the next. */
    private record Seen(long number, String command, double x, double y, double e, String fault, String comment) {
    }

    @ParameterizedTest
    @CsvSource({"X10, 10", "X-1.5, -1.5", "X+.25, 0.25", "X007, 7", "X1., 1", "X- 3, NaN", "X, 0", "x5, 5", "X 12.5, 12.5",
        "X0.1234567890123456789, 0.123456789012345678", "X-0, 0"})
    void numbers_come_with_or_without_sign_point_and_leading_zeros(String word, double value) throws IOException {
        Seen seen = read("G1 " + word).getFirst();
        if (Double.isNaN(value)) {
            assertThat(seen.x()).isZero();
        } else {
            assertThat(seen.x()).isEqualTo(value);
            assertThat(seen.fault()).isNull();
        }
    }

    @ParameterizedTest
    @ValueSource(strings = {"G1 X1 Y2 E0.5", "g1x1y2e.5", "N12 G1 X1 Y2 E0.5*97", "  G1\tX1 Y2 (there) E0.5", "%G1Y2E.50X1.000",
        "G1 X1 Y2 E0.5 ; there", "G01 X01 Y02 E00.5"})
    void the_same_line_in_other_clothes_says_the_same(String line) throws IOException {
        Seen seen = read(line).getFirst();
        assertThat(seen.command()).isEqualTo("G1");
        assertThat(List.of(seen.x(), seen.y(), seen.e())).containsExactly(1.0, 2.0, 0.5);
        assertThat(seen.fault()).isNull();
    }

    @Test
    void comments_stand_after_a_semicolon_or_in_brackets() throws IOException {
        assertThat(read("G1 X1 ; width = 0.4").getFirst().comment()).isEqualTo("width = 0.4");
        assertThat(read("G1 (first (half) X1").getFirst().comment()).isEqualTo("first (half");
        assertThat(read("; Größe: 5").getFirst().comment()).isEqualTo("Größe: 5");
        assertThat(read(";").getFirst().comment()).isNull();
        assertThat(read("(never closed").getFirst().comment()).isEqualTo("never closed");
    }

    @ParameterizedTest
    @CsvSource(delimiter = '|', value = {"G1 X1 X2|“X” comes twice", "?|“?” is no word", "G|“G” has no number",
        "G1 X1,5|“,” does not belong into a number", "G1 X99999999999999999999|a number is too long", "M|“M” has no number"})
    void a_fault_is_named_and_the_lines_after_it_are_read(String line, String fault) throws IOException {
        List<Seen> seen = read("G28\n" + line + "\nG1 X4\n");
        assertThat(seen.get(1).fault()).isEqualTo(fault);
        assertThat(seen.get(1).number()).isEqualTo(2);
        assertThat(seen.get(2).x()).isEqualTo(4);
        assertThat(seen.get(2).fault()).isNull();
    }

    @Test
    void text_after_commands_that_take_text_is_no_fault() throws IOException {
        assertThat(read("M117 Nearly done, 98 % (really)!").getFirst().fault()).isNull();
        assertThat(read("M23 /prints/Ship No. 2.gco").getFirst().command()).isEqualTo("M23");
    }

    @Test
    void lines_end_as_on_any_system_and_the_last_needs_no_end() throws IOException {
        assertThat(read("G1 X1\r\nG1 X2\n\n\nG1 X3").stream().map(Seen::x).toList()).containsExactly(1.0, 2.0, 0.0, 0.0, 3.0);
        assertThat(read("")).isEmpty();
    }

    @Test
    void a_file_that_trickles_in_reads_like_one_that_comes_at_once() throws IOException {
        StringBuilder file = new StringBuilder();
        for (int i = 0; i < 30_000; i++) {
            file.append("G1 X").append(i % 200).append('.').append(i % 10).append(" E0.").append(i % 9 + 1)
                    .append(i % 97 == 0 ? " ; turn of line " + i + " and on" : "").append('\n');
        }
        byte[] bytes = file.toString().getBytes(StandardCharsets.UTF_8);
        List<Seen> whole = new ArrayList<>(), trickled = new ArrayList<>();
        GcodeReader.read(new ByteArrayInputStream(bytes), line -> whole.add(seen(line)));
        GcodeReader.read(new InputStream() {
            private int at;

            @Override
            public int read() {
                return at < bytes.length ? bytes[at++] : -1;
            }

            @Override
            public int read(byte[] into, int from, int length) {
                int got = Math.min(Math.min(length, 1 + at % 113), bytes.length - at);
                System.arraycopy(bytes, at, into, from, Math.max(0, got));
                at += Math.max(0, got);
                return got <= 0 ? -1 : got;
            }
        }, line -> trickled.add(seen(line)));
        assertThat(trickled).hasSize(30_000).isEqualTo(whole);
    }

    @Test
    void a_line_of_more_than_four_megabytes_is_no_gcode() {
        byte[] endless = new byte[5 << 20];
        java.util.Arrays.fill(endless, (byte) 'x');
        assertThatThrownBy(() -> GcodeReader.read(new ByteArrayInputStream(endless), line -> {
        })).isInstanceOf(IOException.class).hasMessage("Line 1 is longer than 4 MB: this is no G-code.");
    }

    @Test
    void a_stream_that_breaks_is_told_to_whoever_reads_and_so_is_what_the_reader_itself_throws() {
        InputStream broken = new InputStream() {
            private int left = 100_000;

            @Override
            public int read() throws IOException {
                if (left-- <= 0) {
                    throw new IOException("cable out");
                }
                return left % 10 == 0 ? '\n' : 'G';
            }
        };
        assertThatThrownBy(() -> GcodeReader.read(broken, line -> {
        })).isInstanceOf(IOException.class).hasMessage("cable out");
        InputStream wrong = new InputStream() {
            @Override
            public int read() {
                throw new IllegalStateException("closed");
            }
        };
        assertThatThrownBy(() -> GcodeReader.read(wrong, line -> {
        })).isInstanceOf(IOException.class).hasRootCauseMessage("closed");
        assertThatThrownBy(() -> GcodeReader.read(new ByteArrayInputStream("G28\n".repeat(20_000).getBytes(StandardCharsets.UTF_8)),
                line -> {
                    throw new UnsupportedOperationException("enough");
                })).hasMessage("enough");
    }

    private static List<Seen> read(String file) throws IOException {
        List<Seen> seen = new ArrayList<>();
        GcodeReader.read(new ByteArrayInputStream(file.getBytes(StandardCharsets.UTF_8)), line -> seen.add(seen(line)));
        return seen;
    }

    private static Seen seen(GcodeLine line) {
        return new Seen(line.number(), line.letter() == 0 ? "" : "" + line.letter() + line.code(), line.value('X', 0),
                line.value('Y', 0), line.value('E', 0), line.fault(), line.hasComment() ? line.comment() : null);
    }
}
