package fabbrica.core.mesh.io;

import fabbrica.core.units.Spoken;
import java.io.FilterInputStream;
import java.io.IOException;
import java.io.InputStream;

/** Counts what comes out of an archive and refuses it once it swells beyond a limit. */
public final class Unpacking extends FilterInputStream {

    private final long limitBytes;
    private long left;

    /** What packed XML or text swells to at most; also a small file may hold so much. */
    private static final int SWELLING = 100;
    private static final long ALWAYS = 64L << 20;

    /**
     * @param packedBytes length of the archive, which what comes out has to be in proportion to
     * @param limitBytes  the most that may come out in any case
     */
    public static Unpacking of(InputStream in, long packedBytes, long limitBytes) {
        return new Unpacking(in, Math.min(limitBytes, Math.max(ALWAYS, SWELLING * packedBytes)));
    }

    public Unpacking(InputStream in, long limitBytes) {
        super(in);
        this.limitBytes = limitBytes;
        this.left = limitBytes;
    }

    @Override
    public int read() throws IOException {
        int read = super.read();
        count(read < 0 ? 0 : 1);
        return read;
    }

    @Override
    public int read(byte[] into, int from, int length) throws IOException {
        int read = super.read(into, from, length);
        count(Math.max(0, read));
        return read;
    }

    private void count(int bytes) throws IOException {
        left -= bytes;
        if (left < 0) {
            throw new ModelFormatException("The archive unpacks to more than the limit of %s MB."
                    .formatted(Spoken.number(limitBytes / 1048576.0, 1)));
        }
    }
}
