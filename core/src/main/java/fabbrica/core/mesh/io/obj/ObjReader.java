package fabbrica.core.mesh.io.obj;

import fabbrica.core.mesh.io.ModelFiles;
import fabbrica.core.mesh.io.ModelFormatException;
import fabbrica.core.mesh.io.ModelSource;
import fabbrica.core.mesh.io.Polygons;
import fabbrica.core.mesh.io.TextLines;
import fabbrica.core.mesh.io.Vertices;
import fabbrica.core.mesh.model.Mesh;
import fabbrica.core.mesh.model.MeshBuilder;
import java.io.IOException;
import java.io.InputStream;
import java.util.Arrays;
import java.util.Locale;
import java.util.Optional;
import java.util.Set;
import java.util.StringTokenizer;
import org.jspecify.annotations.Nullable;

/**
 * Reads the polygons of Wavefront OBJ: {@code v} and {@code f} with any number of corners, numbers counted from the
 * start or, when negative, back from the latest vertex, lines continued by a backslash. Groups, objects and materials
 * are read past: all faces are one model. Free-form curves and surfaces are refused, since leaving them out would
 * leave out part of the model.
 */
public final class ObjReader {

    private static final Set<String> PASSED = Set.of("vt", "vn", "vp", "o", "g", "s", "mg", "usemtl", "mtllib", "l", "p",
            "usemap", "maplib", "lod", "bevel", "c_interp", "d_interp", "shadow_obj", "trace_obj");
    private static final Set<String> CURVED = Set.of("cstype", "deg", "curv", "curv2", "surf", "parm", "bmat", "step",
            "trim", "hole", "scrv", "sp", "con", "end", "ctech", "stech");

    private static final int LONGEST_LINE = 1 << 20;

    private ObjReader() {
    }

    /** Whether the first word of a text, comments apart, is one that starts an OBJ. */
    public static boolean looksLikeObj(byte[] head) {
        for (byte value : head) {
            if (value >= 0 && value < ' ' && value != '\n' && value != '\r' && value != '\t' && value != '\f') {
                return false;
            }
        }
        return ModelFiles.headText(head).lines().map(String::strip).filter(line -> !line.isEmpty() && line.charAt(0) != '#')
                .findFirst().map(line -> line.split("\\s", 2)[0].toLowerCase(Locale.ROOT))
                .filter(word -> word.equals("v") || PASSED.contains(word) || CURVED.contains(word)).isPresent();
    }

    /** @throws ModelFormatException with the line that cannot be read */
    public static Mesh read(ModelSource source) throws IOException {
        try (InputStream in = source.open()) {
            return new Parser(new TextLines(in)).mesh();
        }
    }

    private static final class Parser {

        private final TextLines lines;
        private final Vertices vertices = new Vertices();
        private final MeshBuilder builder = new MeshBuilder(1024);
        private final Polygons polygons = new Polygons(builder, vertices);
        private int[] corners = new int[16];

        Parser(TextLines lines) {
            this.lines = lines;
        }

        Mesh mesh() throws IOException {
            for (String line = logicalLine(); line != null; line = logicalLine()) {
                int comment = line.indexOf('#');
                StringTokenizer words = new StringTokenizer(comment < 0 ? line : line.substring(0, comment));
                if (words.hasMoreTokens()) {
                    take(words.nextToken().toLowerCase(Locale.ROOT), words);
                }
            }
            return builder.build();
        }

        private @Nullable String logicalLine() throws IOException {
            String line = lines.next();
            if (line == null || !line.endsWith("\\")) {
                return line;
            }
            StringBuilder whole = new StringBuilder();
            for (; line != null && line.endsWith("\\"); line = lines.next()) {
                whole.append(line, 0, line.length() - 1).append(' ');
                if (whole.length() > LONGEST_LINE) {
                    throw lines.broken("ends a line continued beyond %d characters".formatted(LONGEST_LINE));
                }
            }
            return whole.append(line == null ? "" : line).toString();
        }

        private void take(String keyword, StringTokenizer words) throws ModelFormatException {
            if (keyword.equals("v")) {
                vertices.add(coordinate(words), coordinate(words), coordinate(words));
            } else if (keyword.equals("f") || keyword.equals("fo")) {
                face(words);
            } else if (CURVED.contains(keyword)) {
                throw lines.broken("holds a free-form curve or surface (“%s”): export the model as polygons"
                        .formatted(keyword));
            } else if (!PASSED.contains(keyword)) {
                throw lines.broken("starts with “%s”, which OBJ does not know"
                        .formatted(keyword.substring(0, Math.min(20, keyword.length()))));
            }
        }

        private double coordinate(StringTokenizer words) throws ModelFormatException {
            if (!words.hasMoreTokens()) {
                throw lines.broken("has fewer than three coordinates");
            }
            return lines.number(words.nextToken());
        }

        private void face(StringTokenizer words) throws ModelFormatException {
            int count = 0;
            while (words.hasMoreTokens()) {
                if (count == corners.length) {
                    corners = Arrays.copyOf(corners, 2 * count);
                }
                corners[count++] = corner(words.nextToken());
            }
            if (count < 3) {
                throw lines.broken("holds a face of fewer than three corners");
            }
            Optional<String> refused = polygons.add(corners, count);
            if (refused.isPresent()) {
                throw lines.broken(refused.get());
            }
        }

        private int corner(String word) throws ModelFormatException {
            int slash = word.indexOf('/');
            String digits = slash < 0 ? word : word.substring(0, slash);
            int number;
            try {
                number = Integer.parseInt(digits);
            } catch (NumberFormatException e) {
                throw lines.broken("holds “%s” where the number of a vertex belongs".formatted(digits));
            }
            int vertex = number < 0 ? vertices.count() + number : number - 1;
            if (number == 0 || vertex < 0 || vertex >= vertices.count()) {
                throw lines.broken("names vertex %d; %d are known so far".formatted(number, vertices.count()));
            }
            return vertex;
        }
    }
}
