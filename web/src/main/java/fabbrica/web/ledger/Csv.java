package fabbrica.web.ledger;

import java.io.PrintWriter;
import java.util.Arrays;
import java.util.stream.Collectors;

/**
 * Comma-separated values after RFC 4180: lines end in CR LF; a field with a comma, a quote or a line break is quoted and
 * quotes in it doubled. Text that a spreadsheet would run as a formula gets an apostrophe in front.
 */
final class Csv {

    private final PrintWriter out;

    Csv(PrintWriter out, String... names) {
        this.out = out;
        row(names);
    }

    void row(String... fields) {
        out.append(Arrays.stream(fields).map(Csv::field).collect(Collectors.joining(","))).append("\r\n");
    }

    private static String field(String value) {
        String safe = !value.isEmpty() && "=+-@\t\r".indexOf(value.charAt(0)) >= 0 && !isNumber(value)
                ? "'" + value : value;
        boolean quote = safe.chars().anyMatch(c -> c == ',' || c == '"' || c == '\n' || c == '\r');
        return quote ? '"' + safe.replace("\"", "\"\"") + '"' : safe;
    }

    private static boolean isNumber(String value) {
        return value.matches("[+-]?\\d+(\\.\\d+)?");
    }
}
