package fabbrica.core.mesh.io.stl;

import fabbrica.core.mesh.io.LineLengths;
import fabbrica.core.mesh.io.ModelFiles;
import fabbrica.core.mesh.io.ModelFormatException;
import fabbrica.core.mesh.io.ModelSource;
import fabbrica.core.mesh.model.Mesh;
import fabbrica.core.mesh.model.MeshBuilder;
import java.io.BufferedReader;
import java.io.IOException;
import java.io.InputStreamReader;
import java.nio.charset.StandardCharsets;
import java.util.Locale;
import java.util.StringTokenizer;

/**
 * Reads text STL line by line: {@code solid … facet normal … outer loop, vertex ×3, endloop, endfacet … endsolid}.
 * Several solids in one file are read as one mesh, keywords in any case, stored normals ignored. Coordinates are
 * rounded to float32, as the binary form holds them, so that both forms of one model weld alike.
 */
public final class TextStlReader {

    private static final int LONGEST_LINE = 4096;

    private TextStlReader() {
    }

    /** Whether a file starts as text STL does: the word "solid", and no control characters a text would not hold. */
    public static boolean looksLikeText(byte[] head) {
        for (byte value : head) {
            if (value >= 0 && value < ' ' && value != '\n' && value != '\r' && value != '\t' && value != '\f') {
                return false;
            }
        }
        return ModelFiles.headText(head).stripLeading().toLowerCase(Locale.ROOT).startsWith("solid");
    }

    /** @throws ModelFormatException with the line at which the text stops being STL */
    public static Mesh read(ModelSource source) throws IOException {
        try (BufferedReader in = new BufferedReader(
                new InputStreamReader(new LineLengths(source.open(), LONGEST_LINE), StandardCharsets.ISO_8859_1), 1 << 16)) {
            return new Parser(in, source.length()).mesh();
        }
    }

    private static final class Parser {

        private static final long BYTES_PER_FACET = 200;

        private final BufferedReader in;
        private final MeshBuilder builder;
        private final int[] corners = new int[3];
        private int cornersSeen;
        private boolean inFacet;
        private boolean inSolid;
        private int lineNumber;

        Parser(BufferedReader in, long length) {
            this.in = in;
            this.builder = new MeshBuilder((int) (length / BYTES_PER_FACET));
        }

        Mesh mesh() throws IOException {
            for (String line = in.readLine(); line != null; line = in.readLine()) {
                lineNumber++;
                StringTokenizer words = new StringTokenizer(line);
                if (words.hasMoreTokens()) {
                    take(words.nextToken().toLowerCase(Locale.ROOT), words);
                }
            }
            if (inFacet || inSolid) {
                throw new ModelFormatException("The text ends at line %d inside a %s: the file was cut short."
                        .formatted(lineNumber, inFacet ? "facet" : "solid without its endsolid"));
            }
            return builder.build();
        }

        private void take(String keyword, StringTokenizer words) throws ModelFormatException {
            switch (keyword) {
                case "solid" -> {
                    expect(!inSolid, "starts a solid inside another");
                    inSolid = true;
                }
                case "endsolid" -> {
                    expect(inSolid && !inFacet, "ends a solid that was not begun");
                    inSolid = false;
                }
                case "facet" -> {
                    expect(inSolid && !inFacet, "starts a facet where none may start");
                    inFacet = true;
                    cornersSeen = 0;
                }
                case "endfacet" -> {
                    expect(inFacet && cornersSeen == 3, "ends a facet that does not have three corners");
                    builder.triangle(corners[0], corners[1], corners[2]);
                    inFacet = false;
                }
                case "vertex" -> {
                    expect(inFacet && cornersSeen < 3, "holds a corner too many");
                    corners[cornersSeen++] = builder.vertex(number(words), number(words), number(words));
                }
                case "outer", "endloop" -> expect(inFacet, "holds a loop outside a facet");
                default -> throw broken("starts with “%s”, which STL does not know"
                        .formatted(keyword.substring(0, Math.min(20, keyword.length()))));
            }
        }

        private float number(StringTokenizer words) throws ModelFormatException {
            expect(words.hasMoreTokens(), "has fewer than three coordinates");
            String word = words.nextToken();
            try {
                float value = Float.parseFloat(word);
                expect(Float.isFinite(value), "holds a coordinate that is not a finite number");
                return value;
            } catch (NumberFormatException e) {
                throw broken("holds “%s” where a number belongs".formatted(word));
            }
        }

        private void expect(boolean fulfilled, String otherwise) throws ModelFormatException {
            if (!fulfilled) {
                throw broken(otherwise);
            }
        }

        private ModelFormatException broken(String what) {
            return new ModelFormatException("Line %d %s.".formatted(lineNumber, what));
        }
    }
}
