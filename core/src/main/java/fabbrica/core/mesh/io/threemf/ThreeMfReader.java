package fabbrica.core.mesh.io.threemf;

import fabbrica.core.mesh.io.Assembly;
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
import fabbrica.core.units.LengthUnit;
import java.io.BufferedInputStream;
import java.io.IOException;
import java.io.InputStream;
import java.io.OutputStream;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.zip.ZipEntry;
import java.util.zip.ZipException;
import java.util.zip.ZipInputStream;
import org.jspecify.annotations.Nullable;

/**
 * Reads 3MF packages by the 3MF Core Specification 1.3: the start part's unit, mesh objects, objects made of components,
 * transforms, mirrored ones included, and build items; objects in other model parts of the package (Production
 * Extension 1.1, {@code p:path}). Everything the build names becomes one mesh in the start part's unit; a package whose
 * build is empty gives its objects as they are. Nothing outside the package is opened.
 */
public final class ThreeMfReader {

    private static final String RELATIONS = "_rels/.rels";
    private static final String MODEL_FOLDER = "3D/";
    private static final String MODEL_SUFFIX = ".model";
    private static final String START_TYPE = "3dmodel";
    private static final int DEEPEST = 64;
    private static final int MOST_INSTANCES = 250_000;

    private ThreeMfReader() {
    }

    /** Whether a ZIP archive is a package: it says how its parts belong together, or has a model part in its place. */
    public static boolean isPackage(ModelSource source) throws IOException {
        return ZipEntries.anyNamed(source, name -> name.equals(RELATIONS)
                || name.startsWith(MODEL_FOLDER) && name.endsWith(MODEL_SUFFIX));
    }

    /**
     * @param limitBytes the most that the parts may unpack to, together
     * @throws ModelFormatException when the package breaks the specification or swells beyond the limit
     */
    public static ReadModel read(ModelSource source, long limitBytes) throws IOException {
        Map<String, Part> parts = new HashMap<>();
        String start = null;
        try (ZipInputStream zip = new ZipInputStream(source.open())) {
            InputStream counted = Unpacking.of(zip, source.length(), limitBytes);
            for (ZipEntry entry = zip.getNextEntry(); entry != null; entry = zip.getNextEntry()) {
                InputStream content = new BufferedInputStream(counted, 1 << 16);
                String name = absolute(entry.getName());
                if (entry.getName().equals(RELATIONS)) {
                    start = startPart(content);
                } else if (entry.getName().endsWith(MODEL_SUFFIX) && parts.putIfAbsent(name, Part.read(content)) != null) {
                    throw new ModelFormatException("The package holds the part %s twice.".formatted(name));
                }
                counted.transferTo(OutputStream.nullOutputStream());
            }
        } catch (ZipException | java.io.EOFException e) {
            throw new ModelFormatException("The 3MF package is damaged: " + e.getMessage() + ".");
        } catch (IllegalArgumentException e) {
            throw new ModelFormatException("The 3MF package holds a name that cannot be read.");
        }
        Part root = start == null ? null : parts.get(start);
        if (start == null || root == null) {
            throw new ModelFormatException(start == null ? "The package does not say which part is its model."
                    : "The package names %s as its model, which is not in it.".formatted(start));
        }
        Mesh mesh = new Build(parts, root.unit).mesh(start, root);
        return new ReadModel(mesh, ModelFormat.THREE_MF, Optional.of(root.unit));
    }

    private static @Nullable String startPart(InputStream content) throws IOException {
        Xml xml = new Xml(content);
        while (xml.next()) {
            if (xml.starts() && xml.name().equals("Relationship") && xml.required("Type").endsWith(START_TYPE)) {
                return absolute(xml.required("Target"));
            }
        }
        return null;
    }

    private static String absolute(String name) {
        return name.startsWith("/") ? name : "/" + name;
    }

    /** What a component or a build item stands for. */
    private record Reference(@Nullable String path, String objectId, Transform transform) {

        static Reference read(Xml xml) throws ModelFormatException {
            String path = xml.attribute("path");
            return new Reference(path == null ? null : absolute(path), xml.required("objectid"), Transform.read(xml));
        }
    }

    /** One object: a mesh, or components. */
    private record Item(Mesh mesh, List<Reference> components) {
    }

    private record Part(LengthUnit unit, Map<String, Item> objects, List<String> order, List<Reference> build) {

        static Part read(InputStream content) throws IOException {
            LengthUnit unit = LengthUnit.MILLIMETRE;
            Map<String, Item> objects = new HashMap<>();
            List<String> order = new ArrayList<>();
            List<Reference> build = new ArrayList<>();
            Xml xml = new Xml(content);
            boolean inBuild = false;
            while (xml.next()) {
                switch (xml.name()) {
                    case "model" -> unit = xml.starts() ? unit(xml) : unit;
                    case "build" -> inBuild = xml.starts();
                    case "item" -> {
                        if (inBuild && xml.starts()) {
                            build.add(Reference.read(xml));
                        }
                    }
                    case "object" -> {
                        if (xml.starts()) {
                            String id = xml.required("id");
                            boolean printed = !"support".equals(xml.attribute("type"))
                                    && !"surface".equals(xml.attribute("type"));
                            Item item = object(xml);
                            if (objects.putIfAbsent(id, item) != null) {
                                throw xml.broken("object %s is there twice".formatted(id));
                            }
                            if (printed) {
                                order.add(id);
                            }
                        }
                    }
                    default -> { }
                }
            }
            return new Part(unit, objects, order, build);
        }

        private static LengthUnit unit(Xml xml) throws ModelFormatException {
            String unit = xml.attribute("unit");
            return switch (unit == null ? "millimeter" : unit) {
                case "micron" -> LengthUnit.MICROMETRE;
                case "millimeter" -> LengthUnit.MILLIMETRE;
                case "centimeter" -> LengthUnit.CENTIMETRE;
                case "inch" -> LengthUnit.INCH;
                case "foot" -> LengthUnit.FOOT;
                case "meter" -> LengthUnit.METRE;
                default -> throw xml.broken("the unit “%s” is not one of 3MF's".formatted(unit));
            };
        }

        private static Item object(Xml xml) throws IOException {
            Vertices vertices = new Vertices();
            MeshBuilder builder = new MeshBuilder(64);
            List<Reference> components = new ArrayList<>();
            while (xml.next() && !(xml.name().equals("object") && !xml.starts())) {
                if (xml.starts()) {
                    switch (xml.name()) {
                        case "vertex" -> vertices.add(xml.number("x"), xml.number("y"), xml.number("z"));
                        case "triangle" -> vertices.addTriangle(builder, corner(xml, "v1", vertices),
                                corner(xml, "v2", vertices), corner(xml, "v3", vertices));
                        case "component" -> components.add(Reference.read(xml));
                        default -> { }
                    }
                }
            }
            return new Item(builder.build(), components);
        }

        private static int corner(Xml xml, String attribute, Vertices vertices) throws ModelFormatException {
            int corner = xml.index(attribute);
            if (corner < 0 || corner >= vertices.count()) {
                throw xml.broken("a triangle names vertex %d; there are %d".formatted(corner, vertices.count()));
            }
            return corner;
        }
    }

    /** Puts the build together from objects and components. */
    private static final class Build {

        private final Map<String, Part> parts;
        private final LengthUnit unit;
        private final Assembly placed;
        private int references;

        Build(Map<String, Part> parts, LengthUnit unit) {
            this.parts = parts;
            this.unit = unit;
            this.placed = new Assembly(parts.values().stream().flatMap(part -> part.objects.values().stream())
                    .mapToLong(item -> item.mesh.triangleCount()).sum());
        }

        Mesh mesh(String start, Part root) throws ModelFormatException {
            if (root.build.isEmpty()) {
                for (String id : root.order) {
                    place(new Reference(start, id, Transform.IDENTITY), start, Transform.IDENTITY, 0);
                }
            }
            for (Reference item : root.build) {
                place(item, start, Transform.IDENTITY, 0);
            }
            return placed.mesh();
        }

        private void place(Reference reference, String from, Transform outer, int depth) throws ModelFormatException {
            String path = reference.path == null ? from : reference.path;
            Part part = parts.get(path);
            Item item = part == null ? null : part.objects.get(reference.objectId);
            if (part == null || item == null) {
                throw new ModelFormatException("The package names object %s of %s, which is not in it."
                        .formatted(reference.objectId, path));
            }
            if (depth == DEEPEST) {
                throw new ModelFormatException("Objects are nested in one another without end.");
            }
            if (++references > MOST_INSTANCES) {
                throw new ModelFormatException("The objects, put together, are more than any printer could print.");
            }
            Transform transform = reference.transform.then(outer);
            placed.add(item.mesh, transform, part.unit.millimetres() / unit.millimetres());
            for (Reference component : item.components) {
                place(component, path, transform, depth + 1);
            }
        }
    }
}
