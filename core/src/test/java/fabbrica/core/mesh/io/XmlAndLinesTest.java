package fabbrica.core.mesh.io;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.io.ByteArrayInputStream;
import java.io.IOException;
import java.nio.charset.Charset;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.List;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

class XmlAndLinesTest {

    @Test
    void lines_end_in_any_of_three_ways_and_are_counted() throws IOException {
        TextLines lines = lines("one\ntwo\r\nthree\rfour");
        List<String> read = new ArrayList<>();
        for (String line = lines.next(); line != null; line = lines.next()) {
            read.add(line + lines.number());
        }
        assertThat(read).containsExactly("one1", "two2", "three3", "four4");
    }

    @Test
    void a_line_without_end_is_refused_before_it_fills_the_memory() {
        assertThatThrownBy(() -> lines("x".repeat(1 << 20)).next()).isInstanceOf(ModelFormatException.class)
                .hasMessage("Line 1 is longer than 65536 characters.");
    }

    @ParameterizedTest
    @ValueSource(strings = {"1,5", "", "0x1p", "one", "NaN", "1e999", "--1"})
    void what_is_no_finite_number_is_refused(String word) {
        assertThatThrownBy(() -> lines("").number(word)).isInstanceOf(ModelFormatException.class);
    }

    @ParameterizedTest
    @ValueSource(strings = {"UTF-8", "UTF-16", "UTF-16LE-BOM"})
    void xml_is_read_in_the_encodings_packages_may_use(String name) throws IOException {
        String text = "<a b=\"ü\"><c>4</c></a>";
        byte[] bytes = name.equals("UTF-16LE-BOM") ? ("\uFEFF" + text).getBytes(StandardCharsets.UTF_16LE)
                : text.getBytes(Charset.forName(name));
        Xml xml = new Xml(new ByteArrayInputStream(bytes));
        assertThat(xml.next()).isTrue();
        assertThat(xml.attribute("b")).isEqualTo("ü");
        assertThat(xml.attribute("d")).isNull();
        assertThat(xml.next()).isTrue();
        assertThat(xml.finite(xml.text())).isEqualTo(4);
    }

    @Test
    void xml_that_is_broken_names_its_line() throws IOException {
        Xml xml = new Xml(new ByteArrayInputStream("<a>\n<b>\n</a>".getBytes(StandardCharsets.UTF_8)));
        assertThat(xml.next() && xml.next()).isTrue();
        assertThatThrownBy(xml::next).isInstanceOf(ModelFormatException.class).hasMessageContaining("line 3");
        Xml other = new Xml(new ByteArrayInputStream("<a n='x'/>".getBytes(StandardCharsets.UTF_8)));
        other.next();
        assertThatThrownBy(() -> other.index("n")).hasMessage("In line 1 of the XML “x” is no whole number.");
        assertThatThrownBy(() -> other.required("m")).hasMessage("In line 1 of the XML <a> has no “m”.");
    }

    @Test
    void a_name_says_in_which_format_to_write() {
        assertThat(ModelWriters.formatOf("a.b.STL")).contains(ModelFormat.STL_BINARY);
        assertThat(ModelWriters.formatOf("part.3mf")).contains(ModelFormat.THREE_MF);
        assertThat(ModelWriters.formatOf("part")).isEmpty();
        assertThat(ModelFiles.hasModelName("A.Amf")).isTrue();
        assertThat(ModelFiles.hasModelName("photo.jpg")).isFalse();
    }

    @Test
    void what_unpacks_is_counted_as_it_comes() throws IOException {
        assertThat(new Unpacking(new ByteArrayInputStream(new byte[100]), 100).readAllBytes()).hasSize(100);
        assertThatThrownBy(() -> new Unpacking(new ByteArrayInputStream(new byte[101]), 100).readAllBytes())
                .isInstanceOf(ModelFormatException.class).hasMessageContaining("unpacks to more than the limit");
        Unpacking byByte = new Unpacking(new ByteArrayInputStream(new byte[2]), 1);
        assertThat(byByte.read()).isZero();
        assertThatThrownBy(byByte::read).isInstanceOf(ModelFormatException.class);
    }

    private static TextLines lines(String text) {
        return new TextLines(new ByteArrayInputStream(text.getBytes(StandardCharsets.ISO_8859_1)));
    }
}
