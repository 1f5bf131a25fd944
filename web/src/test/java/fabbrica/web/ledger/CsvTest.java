package fabbrica.web.ledger;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.PrintWriter;
import java.io.StringWriter;
import org.junit.jupiter.api.Test;

/** RFC 4180, section 2. */
class CsvTest {

    private final StringWriter text = new StringWriter();

    @Test
    void fields_with_commas_quotes_and_breaks_are_quoted_and_lines_end_in_cr_lf() {
        Csv csv = new Csv(new PrintWriter(text), "a", "b");
        csv.row("plain", "with, comma");
        csv.row("say \"hi\"", "two\nlines");
        assertThat(text).hasToString("a,b\r\nplain,\"with, comma\"\r\n\"say \"\"hi\"\"\",\"two\nlines\"\r\n");
    }

    @Test
    void text_that_a_spreadsheet_would_run_is_defused_and_numbers_are_not() {
        Csv csv = new Csv(new PrintWriter(text), "a");
        csv.row("=1+1");
        csv.row("-2.5");
        assertThat(text).hasToString("a\r\n'=1+1\r\n-2.5\r\n");
    }
}
