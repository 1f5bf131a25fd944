package fabbrica.cli;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import fabbrica.core.mesh.io.stl.BinaryStlWriter;
import fabbrica.core.mesh.model.Mesh;
import fabbrica.core.mesh.model.Shapes;
import java.io.IOException;
import java.io.OutputStream;
import java.io.PrintWriter;
import java.io.StringWriter;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.zip.ZipEntry;
import java.util.zip.ZipOutputStream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.ObjectMapper;

/** The output is a contract: names may be added, never changed. */
class FabbricaTest {

    @TempDir
    private Path folder;

    private final StringWriter out = new StringWriter();
    private final StringWriter err = new StringWriter();

    @Test
    void check_prints_every_name_of_the_contract() throws IOException {
        int exit = run("check", stl("box.stl", Shapes.box(20, 30, 40)), "--json");
        JsonNode json = json();
        assertThat(exit).isZero();
        assertThat(names(json)).contains("file", "unit", "mesh", "findings", "fit", "shape", "orientation");
        assertThat(names(json.get("file"))).containsExactly("name", "format", "bytes", "sha256");
        assertThat(names(json.get("unit"))).containsExactly("assumed", "declared", "suspect");
        assertThat(names(json.get("mesh"))).startsWith("triangles", "vertices", "bodies", "size_mm", "volume_mm3",
                "area_mm2", "watertight", "open_edges", "nonmanifold_edges", "degenerate_triangles",
                "duplicate_triangles");
        assertThat(names(json.get("fit").get(0))).containsExactly("printer", "fits", "rotation_deg", "largest_scale",
                "why");
        assertThat(json.get("mesh").get("volume_mm3").asDouble()).isCloseTo(24_000, within(1e-3));
        assertThat(json.get("mesh").get("watertight").asBoolean()).isTrue();
        assertThat(json.get("unit").get("suspect").isNull()).isTrue();
        assertThat(json.get("file").get("sha256").asString()).hasSize(64);
        assertThat(json.get("fit")).hasSize(4);
    }

    @Test
    void a_blocking_finding_exits_with_1() throws IOException {
        int exit = run("check", stl("holed.stl", Shapes.without(Shapes.box(20, 20, 20), 2)), "--json");
        assertThat(exit).isEqualTo(1);
        JsonNode finding = json().get("findings").get(0);
        assertThat(names(finding)).startsWith("code", "severity", "count", "message", "advice");
        assertThat(finding.get("code").asString()).isEqualTo("open-edges");
        assertThat(finding.get("severity").asString()).isEqualTo("block");
        assertThat(finding.get("count").asInt()).isEqualTo(3);
    }

    @Test
    void a_unit_and_a_scale_change_every_measure() throws IOException {
        run("check", stl("inch.stl", Shapes.box(2, 1, 1)), "--json", "--unit", "in", "--scale", "0.5");
        assertThat(json().get("mesh").get("size_mm").get(0).asDouble()).isCloseTo(25.4, within(1e-6));
        assertThat(json().get("unit").get("assumed").asString()).isEqualTo("in");
    }

    @Test
    void an_unreadable_file_exits_with_2_one_line_and_an_error_object() throws IOException {
        Path broken = Files.writeString(folder.resolve("broken.stl"), "");
        assertThat(run("check", broken.toString(), "--json")).isEqualTo(2);
        assertThat(json().get("error").get("code").asString()).isEqualTo("unreadable");
        assertThat(err.toString()).isEqualTo("broken.stl: The file is empty: it has 0 bytes.\n");
    }

    @Test
    void several_files_are_reported_in_a_list_and_the_worst_decides_the_exit_code() throws IOException {
        String good = stl("good.stl", Shapes.box(20, 20, 20));
        assertThat(run("check", good, folder.resolve("missing.stl").toString(), "--json")).isEqualTo(2);
        assertThat(json()).hasSize(2);
        assertThat(json().get(0).get("mesh").get("triangles").asInt()).isEqualTo(12);
        assertThat(json().get(1).get("file").get("name").asString()).endsWith("missing.stl");
    }

    @Test
    void an_archive_stands_for_the_models_in_it() throws IOException {
        Path zip = folder.resolve("two.zip");
        try (ZipOutputStream archive = new ZipOutputStream(Files.newOutputStream(zip))) {
            for (String name : List.of("a.stl", "b.stl")) {
                archive.putNextEntry(new ZipEntry(name));
                BinaryStlWriter.write(Shapes.box(20, 20, 20), name, archive);
            }
        }
        assertThat(run("check", zip.toString(), "--json")).isZero();
        assertThat(json()).hasSize(2);
    }

    @Test
    void check_says_how_the_part_is_shaped_and_which_ways_it_may_lie() throws IOException {
        Mesh mushroom = Shapes.revolution(new double[] {0, 0, 5, 0, 5, 20, 15, 20, 15, 25, 0, 25}, 90);
        run("check", stl("mushroom.stl", mushroom), "--json");
        JsonNode shape = json().get("shape");
        assertThat(names(shape)).contains("overhang_area_mm2", "overhang_by_angle", "bed_contact_mm2",
                "thinnest_wall_mm", "narrowest_gap_mm", "height_mm", "stable", "support_volume_mm3");
        double polygon = 90 / 2.0 * Math.sin(2 * Math.PI / 90);
        assertThat(shape.get("overhang_area_mm2").asDouble()).isCloseTo(polygon * 200, within(1e-2));
        assertThat(shape.get("narrowest_gap_mm").isNull()).isTrue();
        assertThat(names(json().get("mesh"))).contains("inconsistent_edges", "intersecting_pairs", "voids");
        JsonNode best = json().get("orientation").get(0);
        assertThat(names(best)).contains("rotation", "score", "overhang_area_mm2", "bed_contact_mm2", "height_mm");
        assertThat(best.get("rotation").get(2).get(2).asDouble()).isCloseTo(-1, within(1e-6));
        run("check", stl("mushroom.stl", mushroom), "--json", "--orient", "best");
        assertThat(json().get("shape").get("overhang_area_mm2").asDouble()).isZero();
    }

    @Test
    void a_wider_nozzle_raises_other_findings() throws IOException {
        String plate = stl("plate.stl", Shapes.box(60, 40, 0.9));
        run("check", plate, "--json");
        assertThat(json().get("findings")).isEmpty();
        run("check", plate, "--json", "--nozzle", "1.0");
        assertThat(json().get("findings").get(0).get("code").asString()).isEqualTo("thin-wall");
    }

    @Test
    void soundness_alone_leaves_the_shape_out() throws IOException {
        run("check", stl("box.stl", Shapes.box(20, 30, 40)), "--json", "--soundness");
        assertThat(json().get("mesh").get("watertight").asBoolean()).isTrue();
        assertThat(names(json())).doesNotContain("shape", "orientation");
    }

    @Test
    void repair_writes_a_mended_model_and_says_what_changed() throws IOException {
        String out = folder.resolve("mended.3mf").toString();
        assertThat(run("repair", stl("holed.stl", Shapes.without(Shapes.box(20, 20, 20), 0, 2)), out, "--json")).isZero();
        assertThat(json().get("changes").get(0).asString()).startsWith("1 hole filled with 2 triangles");
        assertThat(json().get("before").get("open_edges").asInt()).isEqualTo(4);
        assertThat(json().get("after").get("watertight").asBoolean()).isTrue();
        run("check", out, "--json");
        assertThat(json().get("file").get("format").asString()).isEqualTo("3mf");
        assertThat(json().get("unit").get("declared").asString()).isEqualTo("mm");
        assertThat(json().get("mesh").get("volume_mm3").asDouble()).isCloseTo(8000, within(1e-3));
    }

    @Test
    void convert_changes_format_unit_and_scale_and_nothing_else() throws IOException {
        String out = folder.resolve("box.obj").toString();
        assertThat(run("convert", stl("box.stl", Shapes.box(1, 2, 3)), out, "--unit", "in", "--scale", "2")).isZero();
        run("check", out, "--json");
        assertThat(json().get("mesh").get("size_mm").get(2).asDouble()).isCloseTo(152.4, within(1e-6));
        assertThat(run("convert", out, folder.resolve("box.dwg").toString())).isEqualTo(2);
        assertThat(err.toString()).contains("must end in .stl, .obj, .3mf, .ply or .amf");
        assertThat(folder.resolve("box.dwg")).doesNotExist();
    }

    @Test
    void estimate_prints_every_name_of_the_contract() throws IOException {
        int exit = run("estimate", stl("box.stl", Shapes.box(20, 20, 20)), "--printer", "standard", "--json");
        JsonNode json = json();
        assertThat(exit).isZero();
        assertThat(names(json)).startsWith("time_s", "filament", "cost", "layers", "recipe");
        assertThat(names(json.get("time_s"))).containsExactly("total", "prepare", "print", "by_phase");
        assertThat(names(json.get("filament"))).containsExactly("mm", "mm3", "g");
        assertThat(names(json.get("cost"))).containsExactly("amount", "currency");
        assertThat(json.get("time_s").get("total").asDouble()).isCloseTo(json.get("time_s").get("prepare").asDouble()
                + json.get("time_s").get("print").asDouble(), within(1e-5));
        assertThat(json.get("layers").asInt()).isEqualTo(100);
    }

    @Test
    void every_option_of_the_estimate_reaches_the_recipe() throws IOException {
        run("estimate", stl("box.stl", Shapes.box(20, 20, 20)), "--printer", "large", "--json", "--material", "petg",
                "--nozzle", "0.5", "--layer-height", "0.25", "--first-layer-height", "0.3", "--line-width", "0.55",
                "--walls", "2", "--top", "6", "--bottom", "5", "--infill", "22", "--pattern", "grid", "--adhesion",
                "brim", "--speed", "70", "--acceleration", "900", "--max-flow", "12", "--scale", "2", "--unit", "mm");
        JsonNode recipe = json().get("recipe");
        assertThat(recipe.get("layer_height_mm").asDouble()).isEqualTo(0.25);
        assertThat(recipe.get("first_layer_height_mm").asDouble()).isEqualTo(0.3);
        assertThat(recipe.get("infill").asDouble()).isEqualTo(0.22);
        assertThat(recipe.get("pattern").asString()).isEqualTo("grid");
        assertThat(recipe.get("adhesion").asString()).isEqualTo("brim");
        assertThat(json().get("layers").asInt()).isEqualTo(160);
    }

    @ParameterizedTest
    @CsvSource(delimiter = '|', value = {
        "check|Name a file: STL, OBJ, 3MF, PLY, AMF, or a ZIP archive with them.",
        "print x.stl|The commands are: check FILE…, repair IN OUT, convert IN OUT, estimate FILE --printer ID, "
                + "slice IN -o OUT.gcode --printer ID, trade IN --printer ID, schedule IN.json -o OUT.json "
                + "and printer --port N --card DIR.",
        "slice x.stl --printer small|Name the file to write with -o.",
        "estimate x.stl --printer fast --layer-height 0.4|Layer height must be between 0.08 and 0.28 mm for a nozzle of 0.4 mm; "
                + "0.4 was given.",
        "estimate x.stl --printer fast --support-angle 95|Support beyond must be between 0 and 89 ° from vertical; 95 was given.",
        "estimate x.stl --printer fast --line-width 0|Line width must be between 0.24 and 4 mm; 0 was given.",
        "estimate x.stl --printer fast --walls 0 --infill 0 --top 0 --bottom 0|A recipe without walls, infill, top and bottom "
                + "prints nothing.",
        "estimate x.stl --printer fast --jerk 8 --junction-deviation 0.02|Corners are limited either by --jerk or by "
                + "--junction-deviation.",
        "estimate x.stl --printer fast --supports some|--supports takes one of none, bed, everywhere; “some” was given.",
        "estimate x.stl --printer fast --box 0,0,0,5,5|--box takes X,Y,Z,X,Y,Z in mm from the part's front left lower corner, and "
                + "then any of infill=…, top=…, bottom=…, supports=blocked or supports=enforced; “0,0,0,5,5” was given.",
        "estimate x.stl --printer fast --box 0,0,0,5,5,0|A box needs some width, depth and height.",
        "estimate x.stl --printer fast --change-at high|--change-at takes heights in mm with commas between; “high” was given.",
        "trade x.stl --printer fast --needed-by soon|There is no file x.stl.",
        "repair x.stl|Name the file to read and the file to write.",
        "convert x.stl y.stl|There is no file x.stl.",
        "estimate x.stl|Name a printer with --printer: small, standard, large, fast.",
        "estimate x.stl --printer huge|There is no printer “huge”; choose one of small, standard, large, fast.",
        "estimate x.stl --printer fast --walls 2.5|--walls takes a whole number; “2.5” was given.",
        "estimate x.stl --printer fast --speed quick|--speed takes a number; “quick” was given.",
        "estimate x.stl --printer fast --infill 120|Infill must be between 0 and 100 %; 120 was given.",
        "estimate x.stl --printer fast|There is no file x.stl."})
    void wrong_arguments_exit_with_2_and_one_clear_line(String line, String sentence) {
        List<String> words = new ArrayList<>(List.of(line.split(" ")));
        words.add("--json");
        assertThat(run(words.toArray(String[]::new))).isEqualTo(2);
        assertThat(err.toString()).isEqualTo(sentence + "\n");
        assertThat(json().get("error").get("message").asString()).isEqualTo(sentence);
    }

    @Test
    void the_finer_options_reach_the_estimate() throws IOException {
        String table = stl("table.stl", Shapes.together(Shapes.box(10, 10, 10.5).moved(10, 10, 0), Shapes.box(30, 30, 2).moved(0, 0, 10)));
        run("estimate", table, "--printer", "standard", "--json");
        double plain = json().get("time_s").get("total").asDouble();
        assertThat(json().get("support_g").asDouble()).isZero();
        run("estimate", table, "--printer", "standard", "--json", "--supports", "bed", "--support-angle", "50", "--change-at", "4,9",
                "--prepare", "fresh", "--travel-speed", "90", "--outer-speed", "20", "--first-layer-speed", "15", "--jerk", "6");
        JsonNode json = json();
        assertThat(json.get("support_g").asDouble()).isPositive();
        assertThat(json.get("by_path").get("outer_wall").get("s").asDouble()).isGreaterThan(0);
        assertThat(names(json.get("by_path").get("outer_wall"))).containsExactly("s", "mm", "g");
        assertThat(json.get("time_s").get("by_phase").get("level")).isNull();
        assertThat(json.get("time_s").get("by_phase").get("change").asDouble()).isEqualTo(240);
        assertThat(json.get("changes").get(0).get("lands_at_mm").asDouble()).isCloseTo(4.04, within(1e-9));
        assertThat(json.get("time_s").get("total").asDouble()).isGreaterThan(plain);
        run("estimate", table, "--printer", "standard", "--json", "--count", "4", "--variable-layers", "--adhesion", "ears", "--pattern",
                "gyroid", "--junction-deviation", "0.02");
        assertThat(json().get("filament").get("g").asDouble()).isPositive();
        String cube = stl("cube.stl", Shapes.box(20, 20, 10));
        double hollow = grams(cube), full = grams(cube, "--box", "0,0,0,20,20,10,infill=100,top=2,bottom=2,supports=blocked");
        assertThat(full).isGreaterThan(1.4 * hollow);
        assertThat(grams(cube, "--box", "0,0,0,10,20,10,infill=100")).isCloseTo((hollow + full) / 2, within(0.04 * full));
        assertThat(grams(cube, "--count", "2", "--box", "0,0,0,20,20,10,infill=100"))
                .isCloseTo(2 * full, within(0.05 * full));
        assertThat(grams(cube, "--infill-lines", "2", "--infill-width", "120", "--infill-angle", "30", "--outer-first",
                "--change-at", "5", "--purge-tower", "100")).isGreaterThan(hollow + 0.124);
        String low = stl("low.stl", Shapes.box(20, 20, 6)), tall = stl("tall.stl", Shapes.box(20, 20, 30));
        run("estimate", low, "--printer", "standard", "--json", "--count", "2");
        int together = json().get("layers").asInt();
        run("estimate", low, "--printer", "standard", "--json", "--count", "2", "--one-by-one");
        assertThat(json().get("layers").asInt()).isEqualTo(2 * together);
        assertThat(run("slice", low, "-o", folder.resolve("two.gcode").toString(), "--printer", "standard", "--count", "2",
                "--one-by-one")).isZero();
        assertThat(run("estimate", tall, "--printer", "standard", "--count", "2", "--one-by-one")).isEqualTo(2);
        assertThat(err.toString()).contains("Copy 1 is 30 mm high; one that is finished before others may have 25 mm.");
        assertThat(run("estimate", table, "--printer", "small", "--json", "--count", "30")).isEqualTo(2);
        assertThat(json().get("error").get("message").asString()).contains("30 copies do not fit on one bed of Small");
    }

    @Test
    void what_is_sliced_reads_back_as_estimated_and_is_told_from_another_printers() throws IOException {
        String box = stl("box.stl", Shapes.box(150, 20, 6)), file = folder.resolve("box.gcode").toString();
        run("estimate", box, "--printer", "standard", "--json");
        double promised = json().get("time_s").get("total").asDouble(), grams = json().get("filament").get("g").asDouble();
        assertThat(run("slice", box, "-o", file, "--printer", "standard", "--json")).isZero();
        assertThat(run("estimate", file, "--printer", "standard", "--json")).isZero();
        assertThat(json().get("time_s").get("total").asDouble()).isCloseTo(promised, within(promised * 0.001));
        assertThat(json().get("filament").get("g").asDouble()).isCloseTo(grams, within(grams * 0.001));
        assertThat(json().get("findings")).isEmpty();
        assertThat(run("estimate", file, "--printer", "small", "--json")).isEqualTo(1);
        assertThat(json().get("findings").get(0).get("code").asString()).isEqualTo("off-bed");
        assertThat(run("slice", box, "-o", file, "--printer", "small", "--material", "abs")).isEqualTo(2);
        assertThat(err.toString()).contains("ABS needs a bed of 100 °C; that of Small reaches 80 °C.");
    }

    @Test
    void the_trade_table_names_what_makes_it_in_time() throws IOException {
        String figure = stl("figure.stl", Shapes.cone(9, 3, 24, 40));
        assertThat(run("trade", figure, "--printer", "standard", "--json", "--start", "2026-05-04T12:00+00:00",
                "--needed-by", "2026-05-04T12:28+00:00")).isZero();
        JsonNode json = json();
        assertThat(json.get("rows").get(0).get("change").asString()).isEqualTo("as planned");
        assertThat(json.get("rows").size()).isGreaterThan(6);
        assertThat(json.get("fastest_that_looks_right").asString()).isNotEmpty();
        assertThat(run("trade", figure, "--printer", "standard")).isZero();
        assertThat(out.toString()).contains("as planned").contains("The plan.");
    }

    @Test
    void without_json_people_get_sentences() throws IOException {
        assertThat(run("check", stl("box.stl", Shapes.box(20, 20, 20)))).isZero();
        assertThat(out.toString()).contains("box.stl: 20 × 20 × 20 mm, 12 triangles, watertight",
                "Standard: Fits as it lies.");
        assertThat(run("estimate", stl("box.stl", Shapes.box(20, 20, 20)), "--printer", "small")).isZero();
        assertThat(out.toString()).contains("heating the bed");
    }

    private double grams(String file, String... options) {
        List<String> words = new ArrayList<>(List.of("estimate", file, "--printer", "standard", "--json"));
        words.addAll(List.of(options));
        assertThat(run(words.toArray(String[]::new))).as(err.toString()).isZero();
        return json().get("filament").get("g").asDouble();
    }

    private int run(String... arguments) {
        out.getBuffer().setLength(0);
        err.getBuffer().setLength(0);
        return Fabbrica.run(arguments, new PrintWriter(out, true), new PrintWriter(err, true));
    }

    private JsonNode json() {
        return new ObjectMapper().readTree(out.toString());
    }

    private static List<String> names(JsonNode object) {
        return List.copyOf(object.propertyNames());
    }

    private String stl(String name, Mesh mesh) throws IOException {
        Path file = folder.resolve(name);
        try (OutputStream stream = Files.newOutputStream(file)) {
            BinaryStlWriter.write(mesh, name, stream);
        }
        return file.toString();
    }
}
