package fabbrica.bench;

import fabbrica.core.bed.Allowance;
import fabbrica.core.bed.Footprint;
import fabbrica.core.bed.Nesting;
import fabbrica.core.estimate.Estimate;
import fabbrica.core.gcode.GcodeFile;
import fabbrica.core.gcode.Replay;
import fabbrica.core.inspect.Inspection;
import fabbrica.core.inspect.Poses;
import fabbrica.core.inspect.Poses.Pose;
import fabbrica.core.inspect.Soundness;
import fabbrica.core.mesh.io.ModelFiles;
import fabbrica.core.mesh.io.ModelReading;
import fabbrica.core.mesh.io.ModelSource;
import fabbrica.core.mesh.io.stl.BinaryStlWriter;
import fabbrica.core.mesh.model.LevelSet;
import fabbrica.core.mesh.model.Mesh;
import fabbrica.core.mesh.model.Rotation;
import fabbrica.core.mesh.model.Shapes;
import fabbrica.core.mesh.model.TriangleTree;
import fabbrica.core.mesh.repair.Repair;
import fabbrica.core.motion.Motion;
import fabbrica.core.printing.PrintShop;
import fabbrica.core.recipe.BuiltIn;
import fabbrica.core.recipe.Part;
import fabbrica.core.recipe.Plate;
import fabbrica.core.recipe.Printer;
import fabbrica.core.recipe.Recipe;
import fabbrica.core.recipe.StartingPoint;
import fabbrica.core.toolpath.Toolpath;
import fabbrica.core.trade.Ways;
import fabbrica.core.units.Progress;
import java.io.ByteArrayInputStream;
import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.concurrent.TimeUnit;
import org.openjdk.jmh.annotations.Benchmark;
import org.openjdk.jmh.annotations.BenchmarkMode;
import org.openjdk.jmh.annotations.Fork;
import org.openjdk.jmh.annotations.Measurement;
import org.openjdk.jmh.annotations.Mode;
import org.openjdk.jmh.annotations.OutputTimeUnit;
import org.openjdk.jmh.annotations.Scope;
import org.openjdk.jmh.annotations.Setup;
import org.openjdk.jmh.annotations.State;
import org.openjdk.jmh.annotations.Warmup;

/** The core on a sphere of a million triangles and one of a hundred thousand, 80 mm across. */
@State(Scope.Benchmark)
@BenchmarkMode(Mode.AverageTime)
@OutputTimeUnit(TimeUnit.MILLISECONDS)
@Warmup(iterations = 3, time = 2)
@Measurement(iterations = 5, time = 2)
@Fork(value = 1, jvmArgsAppend = "-Xmx2g")
// What is measured is made in @Setup.
@SuppressWarnings("NullAway.Init")
public class CoreBenchmark {

    private final Printer printer = BuiltIn.printer("standard").orElseThrow();
    private final Recipe recipe = StartingPoint.DAILY_BREAD.recipe(printer.nozzle(), printer.kinematics());
    private ModelSource million;
    private Mesh millionMesh;
    private Mesh hundredThousand;
    private Mesh hundredThousandHoled;
    private Mesh gear;
    private Mesh gyroid;
    private Toolpath toolpath;
    private byte[] gcode;

    @Setup
    public void make() throws IOException {
        millionMesh = Shapes.sphere(40, 1000, 501);
        ByteArrayOutputStream stl = new ByteArrayOutputStream();
        BinaryStlWriter.write(millionMesh, "benchmark", stl);
        million = ModelSource.of("million.stl", stl.toByteArray());
        hundredThousand = Shapes.sphere(40, 250, 201);
        hundredThousandHoled = Shapes.without(hundredThousand, 5000, 20_000, 60_000);
        gyroid = LevelSet.gyroid(60, 87);
        gear = Shapes.extrusion(Shapes.disc(0, 0, 23, 90), 9);
        toolpath = Toolpath.of(hundredThousand, recipe, Progress.IGNORED);
        ByteArrayOutputStream file = new ByteArrayOutputStream();
        new GcodeFile(toolpath, Motion.of(toolpath, recipe, printer, Progress.IGNORED), recipe, printer, BuiltIn.PLA, 110, 110,
                List.of("benchmark")).write(file);
        gcode = file.toByteArray();
        System.out.printf("G-code: %.2f MB%n", gcode.length / 1e6);
    }

    @Benchmark
    public ModelReading read_a_million_triangles() {
        return ModelFiles.read(million, ModelFiles.DEFAULT_LIMIT_BYTES);
    }

    @Benchmark
    public Inspection inspect_a_million_triangles() {
        return Inspection.of(millionMesh);
    }

    @Benchmark
    public Soundness soundness_of_a_million_triangles() {
        return Soundness.of(millionMesh);
    }

    @Benchmark
    public Inspection inspect_a_gyroid_of_a_million_triangles() {
        return Inspection.of(gyroid);
    }

    @Benchmark
    public TriangleTree tree_of_a_million_triangles() {
        return new TriangleTree(millionMesh);
    }

    @Benchmark
    public List<Pose> poses_of_a_million_triangles() {
        return Poses.of(millionMesh);
    }

    @Benchmark
    public Repair repair_a_hundred_thousand_triangles() {
        return Repair.of(hundredThousandHoled);
    }

    @Benchmark
    public int fill_a_bed_with_gears() {
        return Nesting.copiesThatFit(gear, Allowance.NONE, printer.bed(), 3);
    }

    @Benchmark
    public Footprint footprint_of_a_million_triangles() {
        return Footprint.of(millionMesh);
    }

    @Benchmark
    public Toolpath lay_a_hundred_thousand_triangles() {
        return Toolpath.of(hundredThousand, recipe, Progress.IGNORED);
    }

    @Benchmark
    public Motion cut_lay_and_time_a_gyroid_of_a_million_triangles() {
        return Motion.of(Toolpath.of(gyroid, recipe, Progress.IGNORED), recipe, printer, Progress.IGNORED);
    }

    @Benchmark
    public Motion cut_lay_and_time_a_hundred_thousand_triangles() {
        return Motion.of(Toolpath.of(hundredThousand, recipe, Progress.IGNORED), recipe, printer,
                Progress.IGNORED);
    }

    @Benchmark
    public Estimate one_trade_row() {
        return rows(1).getLast();
    }

    @Benchmark
    public List<Estimate> ten_trade_rows() {
        return rows(10);
    }

    private static <K, V> PrintShop.Shelf<K, V> shelf() {
        Map<K, V> kept = new HashMap<>();
        return kept::computeIfAbsent;
    }

    private List<Estimate> rows(int count) {
        PrintShop shop = new PrintShop(part -> hundredThousand.scaled(part.factor()).turned(part.rotation()), shelf(), shelf(), shelf(), shelf());
        Rotation best = Poses.of(hundredThousand).getFirst().rotation();
        return Ways.of(printer, recipe, BuiltIn.PLA, false, true, List.of(), List.of()).stream().limit(count)
                .map(way -> shop.estimate(Plate.of(new Part("", way.scale(), way.turned() ? best : Rotation.NONE),
                        new Plate.Place(110, 110, 0), way.recipe()), way.printer(), BuiltIn.PLA, Progress.IGNORED)).toList();
    }

    @Benchmark
    public Replay replay_gcode() throws IOException {
        return Replay.of(new ByteArrayInputStream(gcode), printer);
    }

    @Benchmark
    public Estimate time_a_toolpath_that_is_laid() {
        return Estimate.of(toolpath, Motion.of(toolpath, recipe, printer, Progress.IGNORED), recipe, printer, BuiltIn.PLA);
    }
}
