package fabbrica.web.machine;

import fabbrica.web.platform.storage.Sha256;
import java.io.ByteArrayOutputStream;
import java.nio.charset.StandardCharsets;
import java.security.MessageDigest;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.HexFormat;
import java.util.List;
import java.util.regex.Pattern;

/**
 * A file as it goes over a line: line by line, without carriage returns and without comments that are longer than a line may be.
 *
 * @param lines  without their ends
 * @param sha256 of all of them, each with a line feed behind it
 */
record SentFile(List<byte[]> lines, String sha256) {

    private static final int LONGEST = 1000;
    /** Would end the file, begin another one, or stop the machine while it is sent. */
    private static final Pattern FOR_THE_LINE = Pattern.compile("\\s*M(28|29|112)\\b.*", Pattern.CASE_INSENSITIVE);

    /** @throws IllegalArgumentException with a clause when it cannot be sent so */
    static SentFile of(byte[] file) {
        List<byte[]> lines = new ArrayList<>();
        MessageDigest digest = Sha256.digest();
        int from = 0;
        while (from < file.length) {
            int to = from;
            while (to < file.length && file[to] != '\n') {
                to++;
            }
            byte[] line = Arrays.copyOfRange(file, from, to > from && file[to - 1] == '\r' ? to - 1 : to);
            from = to + 1;
            if (line.length > LONGEST && line[0] == ';') {
                continue;
            }
            require(line, lines.size() + 1);
            lines.add(line);
            digest.update(line);
            digest.update((byte) '\n');
        }
        return new SentFile(lines, HexFormat.of().formatHex(digest.digest()));
    }

    /** As it lies on the machine. */
    byte[] bytes() {
        ByteArrayOutputStream all = new ByteArrayOutputStream();
        for (byte[] line : lines) {
            all.writeBytes(line);
            all.write('\n');
        }
        return all.toByteArray();
    }

    private static void require(byte[] line, int number) {
        if (line.length > LONGEST) {
            throw new IllegalArgumentException("line %d of the file is too long for a line to the machine; carry it there on a card".formatted(number));
        }
        if (line.length > 2 && (line[0] & 0xDF) == 'M' && FOR_THE_LINE.matcher(new String(line, StandardCharsets.ISO_8859_1)).matches()) {
            throw new IllegalArgumentException("line %d of the file would be taken for an order on the way; carry it there on a card".formatted(number));
        }
    }
}
