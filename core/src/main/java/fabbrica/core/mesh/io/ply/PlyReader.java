package fabbrica.core.mesh.io.ply;

import fabbrica.core.mesh.io.ModelFiles;
import fabbrica.core.mesh.io.ModelFormatException;
import fabbrica.core.mesh.io.ModelSource;
import fabbrica.core.mesh.io.Polygons;
import fabbrica.core.mesh.io.TextLines;
import fabbrica.core.mesh.io.Vertices;
import fabbrica.core.mesh.model.Mesh;
import fabbrica.core.mesh.model.MeshBuilder;
import fabbrica.core.units.Spoken;
import java.io.BufferedInputStream;
import java.io.EOFException;
import java.io.IOException;
import java.io.InputStream;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Optional;
import java.util.StringTokenizer;
import org.jspecify.annotations.Nullable;

/**
 * Reads PLY polygon files as their author described them (Turk, 1994): text, binary little-endian and big-endian; any
 * elements with any properties, of which the vertices' x, y, z and the faces' list of vertex numbers are used.
 */
public final class PlyReader {

    private static final int MOST_ELEMENTS = 1000;
    private static final int MOST_PROPERTIES = 1000;

    private PlyReader() {
    }

    public static boolean looksLikePly(byte[] head) {
        String text = ModelFiles.headText(head);
        return text.startsWith("ply\n") || text.startsWith("ply\r");
    }

    /** @throws ModelFormatException with the line or element that cannot be read */
    public static Mesh read(ModelSource source) throws IOException {
        try (InputStream in = new BufferedInputStream(source.open(), 1 << 16)) {
            TextLines lines = new TextLines(in);
            Header header = Header.read(lines);
            Values values = header.text ? new TextValues(lines) : new BinaryValues(in, header.bigEndian);
            return new Body(header, values).mesh();
        } catch (EOFException e) {
            throw new ModelFormatException("The file ends before all the elements its header announces: it was cut short.");
        }
    }

    private enum Type {
        CHAR(1), UCHAR(1), SHORT(2), USHORT(2), INT(4), UINT(4), FLOAT(4), DOUBLE(8);

        private final int bytes;

        Type(int bytes) {
            this.bytes = bytes;
        }

        static Type of(String word, TextLines lines) throws ModelFormatException {
            return switch (word) {
                case "char", "int8" -> CHAR;
                case "uchar", "uint8" -> UCHAR;
                case "short", "int16" -> SHORT;
                case "ushort", "uint16" -> USHORT;
                case "int", "int32" -> INT;
                case "uint", "uint32" -> UINT;
                case "float", "float32" -> FLOAT;
                case "double", "float64" -> DOUBLE;
                default -> throw lines.broken("names a type “%s” that PLY does not know".formatted(word));
            };
        }
    }

    /** @param count type of a list's length; null for a single value */
    private record Property(String name, @Nullable Type count, Type type) {
    }

    private record Element(String name, long count, List<Property> properties) {
    }

    private record Header(boolean text, boolean bigEndian, List<Element> elements) {

        static Header read(TextLines lines) throws IOException {
            String format = null;
            List<Element> elements = new ArrayList<>();
            lines.next();
            for (String line = lines.next(); ; line = lines.next()) {
                if (line == null) {
                    throw new ModelFormatException("The header never ends: there is no “end_header”.");
                }
                StringTokenizer words = new StringTokenizer(line);
                String keyword = words.hasMoreTokens() ? words.nextToken() : "comment";
                switch (keyword) {
                    case "comment", "obj_info" -> { }
                    case "format" -> format = word(words, lines);
                    case "element" -> {
                        if (elements.size() == MOST_ELEMENTS) {
                            throw lines.broken("announces more kinds of elements than any model has");
                        }
                        elements.add(new Element(word(words, lines), count(words, lines), new ArrayList<>()));
                    }
                    case "property" -> {
                        if (elements.isEmpty() || elements.getLast().properties.size() == MOST_PROPERTIES) {
                            throw lines.broken("holds a property that belongs to no element");
                        }
                        elements.getLast().properties.add(property(words, lines));
                    }
                    case "end_header" -> {
                        return of(format, elements, lines);
                    }
                    default -> throw lines.broken("starts with “%s”, which a PLY header does not know"
                            .formatted(keyword.substring(0, Math.min(20, keyword.length()))));
                }
            }
        }

        private static Header of(@Nullable String format, List<Element> elements, TextLines lines) throws ModelFormatException {
            boolean text = "ascii".equals(format), big = "binary_big_endian".equals(format);
            if (!text && !big && !"binary_little_endian".equals(format)) {
                throw lines.broken("ends a header without a known format");
            }
            return new Header(text, big, elements);
        }

        private static Property property(StringTokenizer words, TextLines lines) throws ModelFormatException {
            String first = word(words, lines);
            if (first.equals("list")) {
                Type count = Type.of(word(words, lines), lines);
                Type type = Type.of(word(words, lines), lines);
                return new Property(word(words, lines), count, type);
            }
            return new Property(word(words, lines), null, Type.of(first, lines));
        }

        private static long count(StringTokenizer words, TextLines lines) throws ModelFormatException {
            double count = lines.number(word(words, lines));
            if (count < 0 || count != Math.rint(count) || count > Integer.MAX_VALUE) {
                throw lines.broken("announces a number of elements that cannot be");
            }
            return (long) count;
        }

        private static String word(StringTokenizer words, TextLines lines) throws ModelFormatException {
            if (!words.hasMoreTokens()) {
                throw lines.broken("ends too early");
            }
            return words.nextToken();
        }
    }

    /** One value after another, however they are written. */
    private interface Values {
        double next(Type type) throws IOException;
    }

    private record TextValues(TextLines lines, List<StringTokenizer> current) implements Values {

        TextValues(TextLines lines) {
            this(lines, new ArrayList<>(List.of(new StringTokenizer(""))));
        }

        @Override
        public double next(Type type) throws IOException {
            while (!current.getFirst().hasMoreTokens()) {
                String line = lines.next();
                if (line == null) {
                    throw new EOFException();
                }
                current.set(0, new StringTokenizer(line));
            }
            return lines.number(current.getFirst().nextToken());
        }
    }

    private record BinaryValues(InputStream in, boolean bigEndian) implements Values {

        @Override
        public double next(Type type) throws IOException {
            long bits = 0;
            for (int i = 0; i < type.bytes; i++) {
                long read = in.read();
                if (read < 0) {
                    throw new EOFException();
                }
                bits = bigEndian ? bits << 8 | read : bits | read << 8 * i;
            }
            return switch (type) {
                case CHAR -> (byte) bits;
                case SHORT -> (short) bits;
                case INT -> (int) bits;
                case UCHAR, USHORT, UINT -> bits;
                case FLOAT -> Float.intBitsToFloat((int) bits);
                case DOUBLE -> Double.longBitsToDouble(bits);
            };
        }
    }

    private static final class Body {

        private final Header header;
        private final Values values;
        private final Vertices vertices = new Vertices();
        private final MeshBuilder builder = new MeshBuilder(1024);
        private final Polygons polygons = new Polygons(builder, vertices);
        private int[] corners = new int[16];
        private boolean facesKnown;

        Body(Header header, Values values) {
            this.header = header;
            this.values = values;
        }

        Mesh mesh() throws IOException {
            for (Element element : header.elements) {
                // Elements without properties take no room in the file, however many are announced.
                for (long i = 0; i < element.count && !element.properties.isEmpty(); i++) {
                    switch (element.name) {
                        case "vertex" -> vertex(element, i);
                        case "face" -> face(element, i);
                        default -> skip(element);
                    }
                }
            }
            if (!facesKnown && vertices.count() > 0) {
                throw new ModelFormatException("The file holds %s and no faces: a cloud of points, not a model."
                        .formatted(Spoken.count(vertices.count(), "point")));
            }
            return builder.build();
        }

        private void vertex(Element element, long index) throws IOException {
            double x = Double.NaN, y = Double.NaN, z = Double.NaN;
            for (Property property : element.properties) {
                if (property.count != null) {
                    list(property.count, property.type);
                } else {
                    double value = values.next(property.type);
                    switch (property.name) {
                        case "x" -> x = value;
                        case "y" -> y = value;
                        case "z" -> z = value;
                        default -> { }
                    }
                }
            }
            if (!Double.isFinite(x) || !Double.isFinite(y) || !Double.isFinite(z)) {
                throw new ModelFormatException("Vertex %s has no finite x, y and z.".formatted(Spoken.count(index + 1)));
            }
            vertices.add(x, y, z);
        }

        private void face(Element element, long index) throws IOException {
            for (Property property : element.properties) {
                boolean wanted = property.count != null
                        && (property.name.equals("vertex_indices") || property.name.equals("vertex_index"));
                int count = property.count == null ? single(property) : list(property.count, property.type);
                if (wanted) {
                    facesKnown = true;
                    for (int i = 0; i < count; i++) {
                        if (corners[i] < 0 || corners[i] >= vertices.count()) {
                            throw face(index, "names vertex %d; there are %d".formatted(corners[i], vertices.count()));
                        }
                    }
                    if (count < 3) {
                        throw face(index, "has fewer than three corners");
                    }
                    Optional<String> refused = polygons.add(corners, count);
                    if (refused.isPresent()) {
                        throw face(index, refused.get());
                    }
                }
            }
        }

        private static ModelFormatException face(long index, String what) {
            return new ModelFormatException("Face %s %s.".formatted(Spoken.count(index + 1), what));
        }

        private void skip(Element element) throws IOException {
            for (Property property : element.properties) {
                int ignored = property.count == null ? single(property) : list(property.count, property.type);
            }
        }

        private int single(Property property) throws IOException {
            values.next(property.type);
            return 0;
        }

        /** Leaves the list in {@code corners}, as far as its values are whole numbers, and returns its length. */
        private int list(Type lengthType, Type type) throws IOException {
            double count = values.next(lengthType);
            if (count < 0 || count > 1_000_000) {
                throw new ModelFormatException("A list of %s values is more than any polygon has."
                        .formatted(Spoken.number(count, 0)));
            }
            for (int i = 0; i < (int) count; i++) {
                if (i == corners.length) {
                    corners = Arrays.copyOf(corners, 2 * i);
                }
                corners[i] = (int) values.next(type);
            }
            return (int) count;
        }
    }
}
