package fabbrica.web.upkeep;

/** Why something could not be done, for whoever looks after the computer. */
final class UpkeepException extends RuntimeException {

    UpkeepException(String sentence) {
        super(sentence);
    }
}
