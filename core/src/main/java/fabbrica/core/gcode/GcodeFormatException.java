package fabbrica.core.gcode;

import java.io.IOException;

/** Why a stream is no G-code, as a sentence for the person who brought it. */
public final class GcodeFormatException extends IOException {

    GcodeFormatException(String sentence) {
        super(sentence);
    }
}
