package fabbrica.core.mesh.io;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.io.IOException;
import java.io.Reader;
import java.io.StringReader;
import java.util.Random;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.ValueSource;

class XmlGuardTest {

    @ParameterizedTest
    @CsvSource(delimiter = '|', value = {
        "<a>1<!-- two -->3</a> | <a>13</a>", "<a b='<!-- no comment in quotes -->'/> | <a b='<!-- no comment in quotes -->'/>",
        "<!----><a/> | <a/>", "<!-- - -- ---><a/> | <a/>", "<a><![CDATA[<!-- kept -->]]></a> | <a><![CDATA[<!-- kept -->]]></a>",
        "<?x <!-- kept --> ?><a/> | <?x <!-- kept --> ?><a/>", "a<!b | a<!b", "<a>x<!- | <a>x<!-", "<!-- never ended | ''"})
    void comments_are_left_out_and_nothing_else(String xml, String expected) throws IOException {
        assertThat(read(xml, 4096)).isEqualTo(expected);
    }

    @Test
    void it_does_not_matter_how_the_text_comes_in_pieces() throws IOException {
        String[] pieces = {"<", "!", "-", "--", "<!--", "-->", ">", "x", "\n", "\"", "'", "<a ", "<?", "?>", "<![CDATA[", "]]>", "/>"};
        Random chance = new Random(11);
        for (int i = 0; i < 3000; i++) {
            StringBuilder xml = new StringBuilder();
            for (int j = 0; j < 30; j++) {
                xml.append(pieces[chance.nextInt(pieces.length)]);
            }
            String whole = read(xml.toString(), 4096);
            assertThat(read(xml.toString(), 1 + chance.nextInt(7))).as(xml.toString()).isEqualTo(whole);
        }
    }

    @Test
    void the_lines_of_a_comment_count() throws IOException {
        assertThat(read("<a><!-- one\ntwo\n -->\n</a>", 4096)).isEqualTo("<a>\n\n\n</a>");
    }

    @ParameterizedTest
    @ValueSource(strings = {"<a b=\"%s\"/>", "<a b='>>%s'/>", "<a>%s</a>", "<?a > %s ?>", "<![CDATA[ > %s ]]>", "<!DOCTYPE %s>", "<%s>"})
    void whatever_is_too_long_is_refused(String xml) {
        assertThatThrownBy(() -> read(xml.formatted("y".repeat(1 << 20)), 4096)).isInstanceOf(ModelFormatException.class)
                .hasMessageContaining("more than 1048576 characters");
    }

    @Test
    void a_comment_may_be_as_long_as_it_likes() throws IOException {
        assertThat(read("<a><!--" + "-> ".repeat(1 << 20) + "--></a>", 4096)).isEqualTo("<a></a>");
    }

    /** @param atOnce characters that the source hands out and the reader asks for */
    private static String read(String xml, int atOnce) throws IOException {
        Reader slow = new StringReader(xml) {
            @Override
            public int read(char[] into, int from, int most) throws IOException {
                return super.read(into, from, Math.min(most, atOnce));
            }
        };
        StringBuilder read = new StringBuilder();
        char[] buffer = new char[atOnce];
        XmlGuard guard = new XmlGuard(slow);
        for (int count = guard.read(buffer, 0, atOnce); count >= 0; count = guard.read(buffer, 0, atOnce)) {
            read.append(buffer, 0, count);
        }
        return read.toString();
    }
}
