package fabbrica.core.mesh.io;

import java.io.FilterInputStream;
import java.io.IOException;
import java.io.InputStream;

/** A text read in blocks, refused at a line longer than any of its format, before somebody puts that line together. */
public final class LineLengths extends FilterInputStream {

    private final int longest;
    private long line = 1;
    private int length;

    public LineLengths(InputStream in, int longest) {
        super(in);
        this.longest = longest;
    }

    @Override
    public int read() throws IOException {
        byte[] one = new byte[1];
        return read(one, 0, 1) < 0 ? -1 : one[0] & 0xff;
    }

    /** @throws ModelFormatException with the line that is too long */
    @Override
    public int read(byte[] into, int from, int most) throws IOException {
        int read = super.read(into, from, most), start = from - length;
        for (int i = from; i < from + read; i++) {
            if (into[i] == '\n' || into[i] == '\r') {
                line += into[i] == '\n' ? 1 : 0;
                start = i + 1;
            } else if (i - start >= longest) {
                throw new ModelFormatException("Line %d is longer than %d characters.".formatted(line, longest));
            }
        }
        length = from + Math.max(0, read) - start;
        return read;
    }
}
