package fabbrica.web.privacy;

import java.text.Normalizer;
import java.util.Comparator;
import java.util.List;
import java.util.regex.Pattern;
import java.util.stream.Collectors;
import java.util.stream.Stream;

/** Names struck out of what people wrote: whole words, in whatever case, however composed. */
final class Mentions {

    static final String INSTEAD = "(name removed)";
    /** Shorter words of a name are particles more often than names. */
    private static final int SHORTEST_WORD = 3;
    private static final Pattern SPACE = Pattern.compile("[\\s\\p{Z}]+");

    private final Pattern names;

    private Mentions(Stream<String> names) {
        String all = names.map(Mentions::composed).filter(name -> !name.isBlank()).distinct()
                .sorted(Comparator.comparingInt(String::length).reversed()).map(Mentions::pattern).collect(Collectors.joining("|"));
        this.names = Pattern.compile(all.isEmpty() ? "(?!)" : all, Pattern.CASE_INSENSITIVE | Pattern.UNICODE_CASE);
    }

    /** Names in full. */
    static Mentions inFull(List<String> names) {
        return new Mentions(names.stream());
    }

    /** Names in full and each of their words. */
    static Mentions andInPart(List<String> names) {
        return new Mentions(names.stream().flatMap(name -> Stream.concat(Stream.of(name),
                SPACE.splitAsStream(name).filter(word -> word.length() >= SHORTEST_WORD || isUnspaced(word)))));
    }

    /** The text without the names; the same when there is none in it. */
    String struckFrom(String text) {
        String struck = names.matcher(composed(text)).replaceAll(INSTEAD);
        return struck.equals(composed(text)) ? text : struck;
    }

    private static String composed(String text) {
        return Normalizer.normalize(text.strip(), Normalizer.Form.NFC);
    }

    private static String pattern(String name) {
        String words = SPACE.splitAsStream(name).map(Pattern::quote).collect(Collectors.joining("[\\s\\p{Z}_.-]+"));
        return isUnspaced(name) ? words : "(?<![\\p{L}\\p{M}\\p{N}])" + words + "(?![\\p{L}\\p{M}\\p{N}])";
    }

    /** Scripts that put no spaces between words. */
    private static boolean isUnspaced(String name) {
        return name.codePoints().anyMatch(c -> Character.isIdeographic(c)
                || List.of(Character.UnicodeScript.HIRAGANA, Character.UnicodeScript.KATAKANA, Character.UnicodeScript.THAI,
                        Character.UnicodeScript.LAO, Character.UnicodeScript.KHMER, Character.UnicodeScript.MYANMAR)
                .contains(Character.UnicodeScript.of(c)));
    }
}
