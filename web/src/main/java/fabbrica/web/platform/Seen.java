package fabbrica.web.platform;

import fabbrica.web.platform.storage.Sha256;
import java.nio.charset.StandardCharsets;
import java.util.Arrays;
import java.util.Base64;
import org.springframework.stereotype.Component;

/**
 * Marks of what a form was made from; a form sends its mark back, and does nothing once that is out of date. Used in
 * templates as {@code @seen}.
 */
@Component("seen")
public class Seen {

    /** The field that carries the mark. */
    public static final String FIELD = "seen";
    private static final int BYTES = 15;

    /** @param value a record, which tells all of itself as text */
    public static String of(Object value) {
        byte[] hash = Sha256.digest().digest(value.toString().getBytes(StandardCharsets.UTF_8));
        return Base64.getUrlEncoder().encodeToString(Arrays.copyOf(hash, BYTES));
    }

    /**
     * What a form was made from, as it is now.
     *
     * @throws Outdated when it is no longer that
     */
    public static <T> T unchanged(T now, FormValues form) {
        String mark = form.text(FIELD);
        if (!mark.isEmpty() && !mark.equals(of(now))) {
            throw new Outdated();
        }
        return now;
    }
}
