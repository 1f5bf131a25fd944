package fabbrica.web.platform;

import java.util.Objects;

/** Something asked for that cannot be done; the message says why, for the person who asked. Nothing was changed. */
public class Refusal extends RuntimeException {

    public Refusal(String sentence) {
        super(sentence);
    }

    @Override
    public String getMessage() {
        return Objects.requireNonNull(super.getMessage());
    }
}
