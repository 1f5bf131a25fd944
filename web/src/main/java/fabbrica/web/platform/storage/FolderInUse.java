package fabbrica.web.platform.storage;

/** A data folder that may not be worked with; nothing in it was touched. */
public final class FolderInUse extends RuntimeException {

    FolderInUse(String sentence) {
        super(sentence);
    }
}
