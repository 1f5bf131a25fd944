package fabbrica.web.platform.storage;

/** A data folder that may not be worked with; nothing in it was touched. */
public final class FolderRefused extends RuntimeException {

    public FolderRefused(String sentence) {
        super(sentence);
    }
}
