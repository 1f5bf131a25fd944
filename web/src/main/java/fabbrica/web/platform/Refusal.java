package fabbrica.web.platform;

/** Something asked for that cannot be done; the message says why, for the person who asked. Nothing was changed. */
public class Refusal extends RuntimeException {

    public Refusal(String sentence) {
        super(sentence);
    }
}
