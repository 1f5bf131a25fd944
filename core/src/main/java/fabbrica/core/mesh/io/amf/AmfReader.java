package fabbrica.core.mesh.io.amf;

import fabbrica.core.mesh.io.Assembly;
import fabbrica.core.mesh.io.ModelFiles;
import fabbrica.core.mesh.io.ModelFormat;
import fabbrica.core.mesh.io.ModelFormatException;
import fabbrica.core.mesh.io.ModelReading.ReadModel;
import fabbrica.core.mesh.io.ModelSource;
import fabbrica.core.mesh.io.Transform;
import fabbrica.core.mesh.io.Unpacking;
import fabbrica.core.mesh.io.Vertices;
import fabbrica.core.mesh.io.Xml;
import fabbrica.core.mesh.io.ZipEntries;
import fabbrica.core.mesh.model.Mesh;
import fabbrica.core.mesh.model.MeshBuilder;
import fabbrica.core.mesh.model.Rotation;
import fabbrica.core.mesh.repair.Split;
import fabbrica.core.units.LengthUnit;
import java.io.BufferedInputStream;
import java.io.EOFException;
import java.io.IOException;
import java.io.InputStream;
import java.io.OutputStream;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import java.util.zip.ZipEntry;
import java.util.zip.ZipException;
import java.util.zip.ZipInputStream;

/**
 * Reads AMF by ISO/ASTM 52915: the unit, objects of several volumes, and constellations that place objects, which may
 * be nested; plain XML or zipped. Curved edges and triangles are read as straight ones, colours and materials are read
 * past. Objects that a constellation names are placed by it; all others lie as drawn.
 */
public final class AmfReader {

    private static final int DEEPEST = 32;
    private static final int MOST_INSTANCES = 100_000;

    private AmfReader() {
    }

    public static boolean looksLikeAmf(byte[] head) {
        String text = ModelFiles.headText(head);
        return (text.contains("<amf") || text.contains("<!DOCTYPE amf")) && text.stripLeading().replace("\u00ef\u00bb\u00bf", "").startsWith("<");
    }

    /** Whether a ZIP archive holds an AMF. */
    public static boolean isPacked(ModelSource source) throws IOException {
        return ZipEntries.anyNamed(source, AmfReader::isModel);
    }

    public static ReadModel read(ModelSource source) throws IOException {
        try (InputStream in = new BufferedInputStream(source.open(), 1 << 16)) {
            return new Parser(new Xml(in)).model();
        }
    }

    /** @param limitBytes the most that the model may unpack to */
    public static ReadModel readPacked(ModelSource source, long limitBytes) throws IOException {
        try (ZipInputStream zip = new ZipInputStream(source.open())) {
            Unpacking counted = Unpacking.of(zip, source.length(), limitBytes);
            for (ZipEntry entry = zip.getNextEntry(); entry != null && !isModel(entry.getName());
                    entry = zip.getNextEntry()) {
                counted.transferTo(OutputStream.nullOutputStream());
            }
            return new Parser(new Xml(new BufferedInputStream(counted, 1 << 16))).model();
        } catch (ZipException | EOFException e) {
            throw new ModelFormatException("The zipped AMF is damaged: " + e.getMessage() + ".");
        }
    }

    private static boolean isModel(String name) {
        return name.toLowerCase(Locale.ROOT).endsWith(".amf");
    }

    /** An object, or another constellation, in its place. */
    private record Instance(String objectId, Transform transform) {

        /** Degrees about x, then y, then z, and a translation, as the file gives them. */
        static Instance of(String objectId, Map<String, Double> values) {
            Rotation rotation = about(values, "rx", 1, 0, 0).then(about(values, "ry", 0, 1, 0)).then(about(values, "rz", 0, 0, 1));
            return new Instance(objectId, Transform.of(rotation, values.getOrDefault("deltax", 0.0),
                    values.getOrDefault("deltay", 0.0), values.getOrDefault("deltaz", 0.0)));
        }

        private static Rotation about(Map<String, Double> values, String name, double x, double y, double z) {
            double half = Math.toRadians(values.getOrDefault(name, 0.0)) / 2, sin = Math.sin(half);
            return new Rotation(Math.cos(half), x * sin, y * sin, z * sin);
        }
    }

    private static final class Parser {

        private final Xml xml;
        private final Map<String, Mesh> objects = new LinkedHashMap<>();
        private final Map<String, List<Instance>> constellations = new LinkedHashMap<>();
        private LengthUnit unit = LengthUnit.MILLIMETRE;
        private int placed;

        Parser(Xml xml) {
            this.xml = xml;
        }

        ReadModel model() throws IOException {
            boolean known = false;
            while (xml.next()) {
                if (xml.starts()) {
                    switch (xml.name()) {
                        case "amf" -> {
                            known = true;
                            unit = unit();
                        }
                        case "object" -> put(objects, xml.required("id"), object());
                        case "constellation" -> put(constellations, xml.required("id"), constellation());
                        default -> { }
                    }
                }
            }
            if (!known) {
                throw new ModelFormatException("The XML holds no <amf>.");
            }
            return new ReadModel(assembled(), ModelFormat.AMF, Optional.of(unit));
        }

        private <T> void put(Map<String, T> into, String id, T value) throws ModelFormatException {
            if (objects.containsKey(id) || constellations.containsKey(id)) {
                throw xml.broken("object %s is there twice".formatted(id));
            }
            into.put(id, value);
        }

        private LengthUnit unit() throws ModelFormatException {
            String name = xml.attribute("unit");
            return switch (name == null ? "millimeter" : name) {
                case "millimeter" -> LengthUnit.MILLIMETRE;
                case "inch" -> LengthUnit.INCH;
                case "feet", "foot" -> LengthUnit.FOOT;
                case "meter" -> LengthUnit.METRE;
                case "micron", "micrometer" -> LengthUnit.MICROMETRE;
                default -> throw xml.broken("the unit “%s” is not one of AMF's".formatted(name));
            };
        }

        private Mesh object() throws IOException {
            Vertices vertices = new Vertices();
            List<Mesh> volumes = new ArrayList<>();
            while (xml.next() && !(xml.name().equals("object") && !xml.starts())) {
                if (xml.starts()) {
                    switch (xml.name()) {
                        case "coordinates" -> coordinates(vertices);
                        case "volume" -> volumes.add(volume(vertices));
                        default -> { }
                    }
                }
            }
            return Split.joined(volumes);
        }

        private void coordinates(Vertices vertices) throws IOException {
            Double x = null, y = null, z = null;
            while (xml.next() && !(xml.name().equals("coordinates") && !xml.starts())) {
                if (xml.starts()) {
                    switch (xml.name()) {
                        case "x" -> x = xml.finite(xml.text());
                        case "y" -> y = xml.finite(xml.text());
                        case "z" -> z = xml.finite(xml.text());
                        default -> { }
                    }
                }
            }
            if (x == null || y == null || z == null) {
                throw xml.broken("a vertex lacks a coordinate");
            }
            vertices.add(x, y, z);
        }

        private Mesh volume(Vertices vertices) throws IOException {
            MeshBuilder builder = new MeshBuilder(64);
            int[] corners = {-1, -1, -1};
            while (xml.next() && !(xml.name().equals("volume") && !xml.starts())) {
                if (xml.starts()) {
                    switch (xml.name()) {
                        case "v1" -> corners[0] = corner(vertices);
                        case "v2" -> corners[1] = corner(vertices);
                        case "v3" -> corners[2] = corner(vertices);
                        default -> { }
                    }
                } else if (xml.name().equals("triangle")) {
                    if (corners[0] < 0 || corners[1] < 0 || corners[2] < 0) {
                        throw xml.broken("a triangle lacks a corner");
                    }
                    vertices.addTriangle(builder, corners[0], corners[1], corners[2]);
                    Arrays.fill(corners, -1);
                }
            }
            return builder.build();
        }

        private int corner(Vertices vertices) throws IOException {
            double number = xml.finite(xml.text());
            if (number != Math.rint(number) || number < 0 || number >= vertices.count()) {
                throw xml.broken("a triangle names vertex %s; there are %d".formatted(number, vertices.count()));
            }
            return (int) number;
        }

        private List<Instance> constellation() throws IOException {
            List<Instance> instances = new ArrayList<>();
            while (xml.next() && !(xml.name().equals("constellation") && !xml.starts())) {
                if (xml.starts() && xml.name().equals("instance")) {
                    instances.add(instance(xml.required("objectid")));
                }
            }
            return instances;
        }

        private Instance instance(String objectId) throws IOException {
            Map<String, Double> values = new LinkedHashMap<>();
            while (xml.next() && !(xml.name().equals("instance") && !xml.starts())) {
                if (xml.starts()) {
                    values.put(xml.name(), xml.finite(xml.text()));
                }
            }
            return Instance.of(objectId, values);
        }

        private Mesh assembled() throws ModelFormatException {
            Set<String> named = constellations.values().stream().flatMap(List::stream).map(Instance::objectId)
                    .collect(Collectors.toSet());
            Assembly all = new Assembly(objects.values().stream().mapToLong(Mesh::triangleCount).sum());
            boolean any = false;
            for (String id : Stream.concat(objects.keySet().stream(), constellations.keySet().stream()).toList()) {
                if (!named.contains(id)) {
                    any = true;
                    place(id, Transform.IDENTITY, 0, all);
                }
            }
            if (!any && !constellations.isEmpty()) {
                throw new ModelFormatException("Constellations name one another in a circle.");
            }
            return all.mesh();
        }

        private void place(String id, Transform transform, int depth, Assembly into) throws ModelFormatException {
            if (depth == DEEPEST || ++placed > MOST_INSTANCES) {
                throw new ModelFormatException("Constellations are nested in one another without end.");
            }
            if (objects.containsKey(id)) {
                into.add(objects.get(id), transform, 1);
                return;
            }
            if (!constellations.containsKey(id)) {
                throw new ModelFormatException("A constellation names object %s, which is not in the file.".formatted(id));
            }
            for (Instance instance : constellations.get(id)) {
                place(instance.objectId, instance.transform.then(transform), depth + 1, into);
            }
        }
    }
}
