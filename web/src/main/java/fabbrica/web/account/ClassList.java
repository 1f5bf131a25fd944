package fabbrica.web.account;

import fabbrica.web.platform.Refusal;
import java.io.IOException;
import java.io.UncheckedIOException;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.stream.Stream;
import org.apache.commons.csv.CSVFormat;
import org.apache.commons.csv.CSVParser;
import org.apache.commons.csv.CSVRecord;

/**
 * Reads a class list: comma-separated values (RFC 4180; semicolons and tabs do as well) with names of columns in the first line.
 * A name is needed, in one column or two; mail, a grown-up, a grown-up's mail, whether somebody is a minor, class and note may be there.
 */
final class ClassList {

    private static final int MOST_LINES = 2000;
    private static final Map<String, List<String>> COLUMNS = Map.of("name", List.of("name", "member", "pupil", "student"),
            "first", List.of("firstname", "givenname", "forename"), "last", List.of("lastname", "surname", "familyname"),
            "mail", List.of("mail", "email"), "grownUp", List.of("grownup", "parent", "guardian"),
            "grownUpMail", List.of("grownupmail", "grownupemail", "parentmail", "parentemail", "guardianmail", "guardianemail"),
            "minor", List.of("minor"), "class", List.of("class"), "note", List.of("note", "remark"));

    private ClassList() {
    }

    /** A line of the list, from 1. */
    record Line(long number, Member member) {
    }

    /** @throws Refusal with the reason when it is no such list */
    static List<Line> of(String text) {
        String firstLine = text.lines().findFirst().orElse("");
        char between = Stream.of(',', ';', '\t').max(Comparator.comparing(mark -> firstLine.chars().filter(c -> c == mark).count())).orElse(',');
        CSVFormat format = CSVFormat.RFC4180.builder().setDelimiter(between).setHeader().setSkipHeaderRecord(true).setIgnoreEmptyLines(true)
                .setIgnoreSurroundingSpaces(true).setAllowMissingColumnNames(true).get();
        try (CSVParser parser = CSVParser.parse(text, format)) {
            Map<String, Integer> columns = columns(parser.getHeaderNames());
            if (!columns.containsKey("name") && !(columns.containsKey("first") && columns.containsKey("last"))) {
                throw new Refusal("The first line has to name the columns; there has to be one called “name”, or “first name” and “last name”. It reads: %s"
                        .formatted(firstLine.isBlank() ? "nothing" : firstLine));
            }
            List<Line> lines = new ArrayList<>();
            for (CSVRecord row : parser) {
                String name = columns.containsKey("name") ? cell(row, columns, "name") : (cell(row, columns, "first") + " " + cell(row, columns, "last")).strip();
                if (!name.isEmpty()) {
                    String grownUp = cell(row, columns, "grownUp");
                    boolean minor = columns.containsKey("minor") ? isYes(cell(row, columns, "minor")) : !grownUp.isEmpty();
                    lines.add(new Line(row.getRecordNumber(), new Member(0, name, minor, grownUp, cell(row, columns, "note"), cell(row, columns, "class"), new HashSet<>())
                            .with(new Member.Mail(cell(row, columns, "mail"), cell(row, columns, "grownUpMail")))));
                }
                if (lines.size() > MOST_LINES) {
                    throw new Refusal("The list has more than %d lines. Bring it in parts.".formatted(MOST_LINES));
                }
            }
            if (lines.isEmpty()) {
                throw new Refusal("There is nobody on this list.");
            }
            return lines;
        } catch (IOException | UncheckedIOException | IllegalArgumentException e) {
            throw new Refusal("This list cannot be read: " + e.getMessage());
        }
    }

    private static Map<String, Integer> columns(List<String> header) {
        Map<String, Integer> columns = new HashMap<>();
        for (int i = 0; i < header.size(); i++) {
            String plain = header.get(i).toLowerCase(Locale.ROOT).replaceAll("[^a-z]", "");
            int at = i;
            COLUMNS.forEach((column, names) -> {
                if (names.contains(plain)) {
                    columns.putIfAbsent(column, at);
                }
            });
        }
        return columns;
    }

    private static String cell(CSVRecord row, Map<String, Integer> columns, String column) {
        Integer at = columns.get(column);
        return at == null || at >= row.size() ? "" : row.get(at).strip();
    }

    private static boolean isYes(String value) {
        return List.of("yes", "y", "true", "1", "x").contains(value.toLowerCase(Locale.ROOT));
    }
}
