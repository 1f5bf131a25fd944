package fabbrica.bench;

import fabbrica.core.gcode.GcodeFile;
import fabbrica.core.gcode.GcodeFormatException;
import fabbrica.core.gcode.Replay;
import fabbrica.core.inspect.Inspection;
import fabbrica.core.mesh.io.ModelArchive;
import fabbrica.core.mesh.io.ModelFiles;
import fabbrica.core.mesh.io.ModelFormat;
import fabbrica.core.mesh.io.ModelFormatException;
import fabbrica.core.mesh.io.ModelReading.ReadModel;
import fabbrica.core.mesh.io.ModelReading.UnreadableModel;
import fabbrica.core.mesh.io.ModelSource;
import fabbrica.core.mesh.io.ModelWriters;
import fabbrica.core.mesh.model.Mesh;
import fabbrica.core.motion.Motion;
import fabbrica.core.recipe.BuiltIn;
import fabbrica.core.recipe.Printer;
import fabbrica.core.recipe.Recipe;
import fabbrica.core.recipe.StartingPoint;
import fabbrica.core.toolpath.Toolpath;
import fabbrica.core.units.Progress;
import java.io.ByteArrayInputStream;
import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.io.OutputStream;
import java.io.UncheckedIOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Duration;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Random;
import java.util.concurrent.atomic.AtomicLong;
import java.util.concurrent.atomic.LongAccumulator;
import java.util.zip.ZipEntry;
import java.util.zip.ZipOutputStream;

/**
 * Files with something wrong in them, by the million, for all readers: whatever comes has to be a mesh that can be measured, a replay or a
 * refusal with a sentence. Small sound files are the seeds; bytes are changed, moved and left out, numbers made extreme, and
 * pieces of one file put into another. What breaks a reader is written into the working folder.
 */
public final class Fuzz {

    private static final byte[][] WORDS = Arrays.stream(new String[] {"-1", "0", "4294967295", "2147483647", "-2147483648", "1e308",
            "nan", "inf", "1e-320", "99999999999999999999", " ", "\n", "\r", "\t", "\\", "/", "#", ";", "(", "*", "<", ">", "</", "/>",
            "<!--", "-->", "<![CDATA[", "]]>", "<?", "&lt;", "&x;", "\"", "'", "f 1 2 3 4 5 6 7 8\n", "v 1e300 0 0\n", "facet\n",
            "element face 9\n", "property list uchar int vertex_indices\n", "end_header\n", "G2 X1 Y1 R0.1\n", "G91\nM83\n", "\u0000",
            "\u00ff\u00fe", "\u00ef\u00bb\u00bf"}).map(word -> word.getBytes(StandardCharsets.ISO_8859_1)).toArray(byte[][]::new);
    private static final int LARGEST = 20_000;
    private static final double TOO_SLOW_S = 5;
    /** Measuring takes a thousand times as long as reading: one mesh of so many. */
    private static final int MEASURED = 200;

    private final List<Seed> seeds = new ArrayList<>();
    private final Printer printer = BuiltIn.printer("standard").orElseThrow();
    private final AtomicLong inputs = new AtomicLong();
    private final AtomicLong meshes = new AtomicLong();
    private final AtomicLong faults = new AtomicLong();
    private final LongAccumulator slowest = new LongAccumulator(Math::max, 0);

    private Fuzz() throws IOException {
        Mesh box = box();
        for (ModelFormat format : ModelFormat.values()) {
            seeds.add(new Seed(bytes(out -> ModelWriters.write(box, format, "seed", out)), Kind.MODEL));
        }
        seeds.add(new Seed("""
                <model unit="inch"><resources><object id="1"><mesh><vertices><vertex x="0" y="0" z="0"/><vertex x="1" y="0" z="0"/>
                <vertex x="0" y="1" z="0"/><vertex x="0" y="0" z="1"/></vertices><triangles><triangle v1="0" v2="2" v3="1"/>
                <triangle v1="0" v2="1" v3="3"/><triangle v1="1" v2="2" v3="3"/><triangle v1="0" v2="3" v3="2"/></triangles></mesh>
                </object><object id="2"><components><component objectid="1" transform="1 0 0 0 1 0 0 0 1 5 5 5"/></components></object>
                </resources><build><item objectid="2"/><item objectid="1"/></build></model>""".getBytes(StandardCharsets.US_ASCII),
                Kind.PACKED));
        seeds.add(new Seed("""
                <amf unit="inch"><object id="1"><mesh><vertices><vertex><coordinates><x>0</x><y>0</y><z>0</z></coordinates></vertex><vertex>
                <coordinates><x>1</x><y>0</y><z>0</z></coordinates></vertex><vertex><coordinates><x>0</x><y>1</y><z>0</z></coordinates>
                </vertex></vertices><volume><triangle><v1>0</v1><v2>1</v2><v3>2</v3></triangle></volume></mesh></object><constellation
                id="2"><instance objectid="1"><rz>90</rz><deltax>5</deltax></instance></constellation></amf>"""
                .getBytes(StandardCharsets.US_ASCII), Kind.MODEL));
        seeds.add(new Seed(bytes(out -> {
            try (ZipOutputStream zip = new ZipOutputStream(out)) {
                zip.putNextEntry(new ZipEntry("in/box.stl"));
                zip.write(seeds.getFirst().content);
                zip.putNextEntry(new ZipEntry("in/box.obj"));
                zip.write("v 0 0 0\nv 1 0 0\nv 0 1 0\nf 1 2 3\n".getBytes(StandardCharsets.US_ASCII));
            }
        }), Kind.MODEL));
        Recipe recipe = StartingPoint.DAILY_BREAD.recipe(printer.nozzle(), printer.kinematics());
        Toolpath toolpath = Toolpath.of(box, recipe, Progress.IGNORED);
        Motion motion = Motion.of(toolpath, recipe, printer, Progress.IGNORED);
        seeds.add(new Seed(bytes(out -> new GcodeFile(toolpath, motion, recipe, printer, BuiltIn.PLA, 50, 50,
                List.of("seed")).write(out)), Kind.SLICED));
        seeds.add(new Seed("G28\nG90\nG1 X10 Y10 Z0.2 E1 F1200 ; first\nG2 X20 Y10 I5 J0 E2\nM104 S200\n(note) G92 E0\nT1\nG20\nG3 X1 Y1 R2\n"
                .getBytes(StandardCharsets.US_ASCII), Kind.SLICED));
    }

    private enum Kind {
        MODEL,
        /** The model part of a package, which is packed once it has been changed. */
        PACKED,
        SLICED
    }

    private record Seed(byte[] content, Kind kind) {
    }

    private interface Content {
        void write(OutputStream out) throws IOException;
    }

    private static byte[] bytes(Content content) throws IOException {
        ByteArrayOutputStream bytes = new ByteArrayOutputStream();
        content.write(bytes);
        return Arrays.copyOf(bytes.toByteArray(), Math.min(LARGEST, bytes.size()));
    }

    private static Mesh box() {
        double[] xyz = {0, 0, 0, 2, 0, 0, 2, 2, 0, 0, 2, 0, 0, 0, 1, 2, 0, 1, 2, 2, 1, 0, 2, 1};
        return new Mesh(xyz, new int[] {0, 2, 1, 0, 3, 2, 4, 5, 6, 4, 6, 7, 0, 1, 5, 0, 5, 4, 1, 2, 6, 1, 6, 5, 2, 3, 7, 2, 7, 6,
                3, 0, 4, 3, 4, 7});
    }

    /** @param arguments seconds, ten minutes by default, and the number of the series, 1 by default */
    public static void main(String[] arguments) throws Exception {
        long until = System.nanoTime() + (arguments.length > 0 ? Long.parseLong(arguments[0]) : 600) * 1_000_000_000;
        long series = arguments.length > 1 ? Long.parseLong(arguments[1]) : 1;
        Fuzz fuzz = new Fuzz();
        List<Thread> threads = new ArrayList<>();
        long start = System.nanoTime();
        for (int i = 0; i < Runtime.getRuntime().availableProcessors(); i++) {
            Random chance = new Random(series + i);
            threads.add(Thread.ofPlatform().start(() -> fuzz.run(until, chance)));
        }
        for (Thread thread : threads) {
            while (!thread.join(Duration.ofSeconds(30))) {
                fuzz.report(start);
            }
        }
        fuzz.report(start);
        System.exit(fuzz.faults.get() == 0 ? 0 : 1);
    }

    private void report(long start) {
        double seconds = (System.nanoTime() - start) / 1e9;
        System.out.printf("%,d inputs in %.0f s (%,.0f a second), %,d of them meshes, the slowest %.2f s, %d faults%n", inputs.get(),
                seconds, inputs.get() / seconds, meshes.get(), slowest.get() / 1e9, faults.get());
    }

    private void run(long until, Random chance) {
        for (long start = System.nanoTime(); start < until; start = System.nanoTime()) {
            Seed seed = seeds.get(chance.nextInt(seeds.size()));
            byte[] input = mutated(seed, chance);
            inputs.incrementAndGet();
            try {
                read(input, seed.kind);
            } catch (Exception | StackOverflowError | OutOfMemoryError e) {
                broken(input, e);
            }
            long taken = System.nanoTime() - start;
            slowest.accumulate(taken);
            if (taken > TOO_SLOW_S * 1e9) {
                broken(input, new IllegalStateException("took " + taken / 1e9 + " s"));
            }
        }
    }

    private void read(byte[] input, Kind kind) throws IOException {
        if (kind == Kind.SLICED) {
            try {
                Replay.of(new ByteArrayInputStream(input), printer);
            } catch (ModelFormatException | GcodeFormatException refused) {
                return;
            }
            return;
        }
        ModelSource source = ModelSource.of("in.stl", input);
        if (ModelArchive.isArchive(source)) {
            try {
                ModelArchive.unpack(source, 1 << 24, name -> OutputStream.nullOutputStream());
            } catch (ModelFormatException refused) {
                return;
            }
        }
        switch (ModelFiles.read(source, 1 << 24)) {
            case ReadModel model -> {
                if (meshes.incrementAndGet() % MEASURED == 0) {
                    Inspection.of(model.mesh());
                }
            }
            case UnreadableModel(String reason) -> {
                if (reason.isBlank() || !reason.endsWith(".")) {
                    throw new IllegalStateException("no sentence: " + reason);
                }
            }
        }
    }

    private synchronized void broken(byte[] input, Throwable fault) {
        try {
            Path kept = Path.of("fuzz-%d.bin".formatted(faults.incrementAndGet()));
            Files.write(kept, input);
            System.out.println(kept + ": " + fault);
            StackTraceElement[] trace = fault.getStackTrace();
            Arrays.stream(trace).limit(4).forEach(line -> System.out.println("    " + line));
        } catch (IOException e) {
            System.out.println("could not be kept: " + fault);
        }
    }

    private byte[] mutated(Seed seed, Random chance) {
        byte[] input = seed.content.clone();
        for (int i = 1 + chance.nextInt(4); i > 0; i--) {
            input = changed(input, chance);
        }
        return seed.kind == Kind.PACKED ? packed(input) : Arrays.copyOf(input, Math.min(input.length, 2 * LARGEST));
    }

    private static byte[] packed(byte[] model) {
        try {
            return bytes(out -> {
                ZipOutputStream zip = new ZipOutputStream(out);
                zip.setLevel(0);
                zip.putNextEntry(new ZipEntry("_rels/.rels"));
                zip.write("<R><Relationship Target=\"/3D/a.model\" Type=\"3dmodel\"/></R>".getBytes(StandardCharsets.US_ASCII));
                zip.putNextEntry(new ZipEntry("3D/a.model"));
                zip.write(model);
                zip.close();
            });
        } catch (IOException e) {
            throw new UncheckedIOException(e);
        }
    }

    private byte[] changed(byte[] input, Random chance) {
        if (input.length == 0) {
            return new byte[] {(byte) chance.nextInt()};
        }
        int at = chance.nextInt(input.length), length = Math.min(input.length - at, 1 + chance.nextInt(chance.nextBoolean() ? 8 : 400));
        return switch (chance.nextInt(8)) {
            case 0 -> {
                input[at] ^= (byte) (1 << chance.nextInt(8));
                yield input;
            }
            case 1 -> {
                input[at] = (byte) chance.nextInt();
                yield input;
            }
            case 2 -> joined(input, at, new byte[0], at + length);
            case 3 -> joined(input, at, Arrays.copyOfRange(input, at, at + length), at);
            case 4 -> joined(input, at, WORDS[chance.nextInt(WORDS.length)], at);
            case 5 -> joined(input, at, WORDS[chance.nextInt(WORDS.length)], at + Math.min(length, 4));
            case 6 -> {
                byte[] other = seeds.get(chance.nextInt(seeds.size())).content;
                int from = chance.nextInt(other.length);
                yield joined(input, at, Arrays.copyOfRange(other, from, Math.min(other.length, from + length)), at + length);
            }
            default -> Arrays.copyOf(input, at);
        };
    }

    /** The input up to a place, then something else, then the input from another place on. */
    private static byte[] joined(byte[] input, int until, byte[] between, int from) {
        byte[] all = new byte[until + between.length + input.length - from];
        System.arraycopy(input, 0, all, 0, until);
        System.arraycopy(between, 0, all, until, between.length);
        System.arraycopy(input, from, all, until + between.length, input.length - from);
        return all;
    }
}
