package fabbrica.core.mesh.io;

import java.io.ByteArrayInputStream;
import java.io.IOException;
import java.io.InputStream;

/** The bytes of one model file; every call of {@link #open} starts again from the first byte. */
public interface ModelSource {

    /** The name the file arrived under, without folders. */
    String name();

    /** Length in bytes. */
    long length();

    InputStream open() throws IOException;

    static ModelSource of(String name, byte[] content) {
        return new ModelSource() {
            @Override
            public String name() {
                return name;
            }

            @Override
            public long length() {
                return content.length;
            }

            @Override
            public InputStream open() {
                return new ByteArrayInputStream(content);
            }
        };
    }
}
