package fabbrica.web.account;

import java.text.Normalizer;
import java.util.Arrays;
import java.util.Locale;
import java.util.stream.Collectors;
import java.util.stream.IntStream;

/**
 * A name as two lists may write it: without accents and marks, in lower case, its words in the order of the alphabet. "Abara, June"
 * and "June Ábara" have one key.
 */
record NameKey(String letters) {

    /** Slips of the pen between two names that may be one person's (a judgement of ours). */
    private static final int SLIPS = 2;
    private static final int SHORTEST = 6;

    static NameKey of(String name) {
        String plain = Normalizer.normalize(name, Normalizer.Form.NFD).replaceAll("\\p{M}+", "").toLowerCase(Locale.ROOT);
        return new NameKey(Arrays.stream(plain.split("[^\\p{L}\\p{N}]+")).filter(word -> !word.isEmpty()).sorted().collect(Collectors.joining(" ")));
    }

    /** Whether a slip or two lie between them: the edit distance of Levenshtein (1966). Short names have to be the same. */
    boolean isNear(NameKey other) {
        return !equals(other) && Math.min(letters.length(), other.letters.length()) >= SHORTEST && distance(letters, other.letters) <= SLIPS;
    }

    private static int distance(String one, String other) {
        int[] before = IntStream.rangeClosed(0, other.length()).toArray();
        for (int i = 1; i <= one.length(); i++) {
            int[] now = new int[other.length() + 1];
            now[0] = i;
            for (int j = 1; j <= other.length(); j++) {
                int same = one.charAt(i - 1) == other.charAt(j - 1) ? 0 : 1;
                now[j] = Math.min(before[j - 1] + same, Math.min(before[j], now[j - 1]) + 1);
            }
            before = now;
        }
        return before[other.length()];
    }
}
