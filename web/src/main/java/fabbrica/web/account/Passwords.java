package fabbrica.web.account;

import fabbrica.web.platform.Refusal;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import me.gosimple.nbvcxz.Nbvcxz;
import me.gosimple.nbvcxz.resources.Configuration;
import me.gosimple.nbvcxz.resources.ConfigurationBuilder;
import me.gosimple.nbvcxz.resources.Dictionary;
import me.gosimple.nbvcxz.resources.DictionaryBuilder;

/**
 * Which passwords are taken. Those on the lists of leaked and common ones, and what is made of the sign-in name, are not,
 * however they are dressed up: the nbvcxz library (MIT licence) estimates how many guesses would find one (after Wheeler,
 * "zxcvbn: low-budget password strength estimation", USENIX Security 2016).
 */
final class Passwords {

    private static final int SHORTEST = 10;
    /** BCrypt reads no further. */
    private static final int LONGEST_BYTES = 72;
    /** A million guesses, which take months where signing in is slowed down. */
    private static final double LEAST_BITS = 20;

    private Passwords() {
    }

    /** @throws Refusal with the reason when it is not taken */
    static void check(String password, String username) {
        if (password == null || password.length() < SHORTEST
                || password.getBytes(StandardCharsets.UTF_8).length > LONGEST_BYTES) {
            throw new Refusal("The password needs %d to %d characters.".formatted(SHORTEST, LONGEST_BYTES));
        }
        Dictionary own = new DictionaryBuilder().setDictionaryName("own").setExclusion(true)
                .addWord(username.toLowerCase(Locale.ROOT), 1).addWord("fabbrica", 1).createDictionary();
        // The library hands out its own list, which all share.
        List<Dictionary> dictionaries = new ArrayList<>(ConfigurationBuilder.getDefaultDictionaries());
        dictionaries.add(own);
        Configuration configuration = new ConfigurationBuilder().setDictionaries(dictionaries).setMinimumEntropy(LEAST_BITS)
                .createConfiguration();
        if (!new Nbvcxz(configuration).estimate(password).isMinimumEntropyMet()) {
            throw new Refusal("That password is among the first that are guessed. Take three or four words that do not belong together.");
        }
    }
}
