package fabbrica.web.machine;

import java.io.IOException;

/** The files that people carry to printers, made by whoever keeps plates. */
@FunctionalInterface
public interface CarriedFiles {

    /** @throws java.util.NoSuchElementException when there is no plate with that number */
    byte[] content(long plateId) throws IOException;
}
