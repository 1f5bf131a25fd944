package fabbrica.core.mesh.io;

import java.io.IOException;

/** Thrown inside a reader where its file breaks the format; {@link ModelFiles} turns it into a value. */
public final class ModelFormatException extends IOException {

    public ModelFormatException(String sentence) {
        super(sentence);
    }
}
