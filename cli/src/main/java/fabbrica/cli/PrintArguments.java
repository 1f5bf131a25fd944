package fabbrica.cli;

import fabbrica.core.bed.BedFit;
import fabbrica.core.bed.Clearance;
import fabbrica.core.bed.Footprint;
import fabbrica.core.bed.Layout;
import fabbrica.core.bed.Outline;
import fabbrica.core.judge.Job;
import fabbrica.core.judge.MachineView;
import fabbrica.core.judge.Obstacle;
import fabbrica.core.judge.People;
import fabbrica.core.judge.Policy;
import fabbrica.core.judge.Readiness;
import fabbrica.core.judge.Stock;
import fabbrica.core.mesh.io.ModelReading.ReadModel;
import fabbrica.core.mesh.model.Mesh;
import fabbrica.core.mesh.model.Rotation;
import fabbrica.core.printing.Nester;
import fabbrica.core.printing.PrintShop;
import fabbrica.core.recipe.BuiltIn;
import fabbrica.core.recipe.Cornering;
import fabbrica.core.recipe.Kinematics;
import fabbrica.core.recipe.Material;
import fabbrica.core.recipe.Nozzle;
import fabbrica.core.recipe.Part;
import fabbrica.core.recipe.Plate;
import fabbrica.core.recipe.Printer;
import fabbrica.core.recipe.Recipe;
import fabbrica.core.recipe.RecipeField;
import fabbrica.core.recipe.RecipeValues;
import fabbrica.core.recipe.StartingPoint;
import fabbrica.core.recipe.Zone;
import fabbrica.core.units.OutOfRange;
import java.io.IOException;
import java.nio.file.Path;
import java.time.Instant;
import java.util.Arrays;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import org.apache.commons.cli.ParseException;
import org.jspecify.annotations.Nullable;

/**
 * How something is to be printed, as the command line says it: on which built-in printer, of what, by which recipe.
 *
 * @param recipe the everyday one of the printer's nozzle, with every value that was given in its place
 */
record PrintArguments(Printer printer, Material material, Recipe recipe) {

    private static final int KEPT = 3;

    /** A part laid out on the bed; {@code fit} is that of one copy. */
    record Laid(BedFit fit, Plate plate) {
    }

    static PrintArguments of(Arguments arguments) {
        String id = arguments.word("material").orElse(BuiltIn.PLA.id());
        Material material = BuiltIn.material(id).orElseThrow(() -> new OutOfRange(unknown("material", id,
                BuiltIn.materials().stream().map(Material::id).toList())));
        Printer printer = printer(arguments, null);
        return new PrintArguments(printer, material, recipe(arguments, printer));
    }

    /** The one model that is named, in millimetres. */
    static Mesh model(Path file, Arguments arguments) throws IOException {
        ReadModel model = ModelFile.readOne(file, arguments.limitBytes());
        return model.mesh().scaled(arguments.unit(model.declaredUnit()).millimetres() * arguments.scale());
    }

    static Path onlyFile(Arguments arguments) throws ParseException {
        if (arguments.files().size() > 1) {
            throw new ParseException("Name one file at a time.");
        }
        return arguments.files().getFirst();
    }

    /** The shop of one command, which works on one model. */
    static PrintShop shop(Mesh mesh) {
        return new PrintShop(part -> mesh(mesh, part), newest(), newest(), newest(), newest());
    }

    /** The model itself, as it was drawn. */
    static Part part() {
        return new Part("", 1, Rotation.NONE);
    }

    static Mesh mesh(Mesh model, Part part) {
        return model.scaled(part.factor()).turned(part.rotation());
    }

    /** Keeps what was used last, because toolpaths of large parts are large. */
    private static <K, V> PrintShop.Shelf<K, V> newest() {
        Map<K, V> kept = new LinkedHashMap<>(16, 0.75f, true) {
            @Override
            protected boolean removeEldestEntry(Map.Entry<K, V> eldest) {
                return size() > KEPT;
            }
        };
        return (key, make) -> {
            V known = kept.get(key);
            V value = known == null ? make.apply(key) : known;
            kept.put(key, value);
            return value;
        };
    }

    /** The part turned so that it fits, in as many copies as were asked for. */
    Laid lay(Mesh mesh, Arguments arguments) {
        int copies = OutOfRange.check("--count", arguments.count("count", 1), 1, 1000);
        BedFit fit = BedFit.of(Footprint.of(mesh), printer.freeBed(), recipe.allowance());
        if (copies == 1) {
            return new Laid(fit, Plate.of(part(), new Plate.Place(fit.x(), fit.y(), fit.rotationDeg()), recipe));
        }
        Plate.Sequence sequence = arguments.oneByOne() ? Plate.Sequence.ONE_BY_ONE : Plate.Sequence.TOGETHER;
        Nester nested = Nester.of(List.of(new Nester.Wanted(part(), copies)), recipe, printer, sequence, part -> mesh(mesh, part));
        if (nested.plates().size() != 1 || nested.plates().getFirst().copies().size() < copies) {
            throw new OutOfRange("%d copies do not fit on one bed of %s; %d do.".formatted(copies, printer.name(),
                    nested.plates().isEmpty() ? 0 : nested.plates().getFirst().copies().size()));
        }
        Plate plate = nested.plates().getFirst();
        Outline outline = Outline.of(mesh);
        List<String> reasons = Layout.of(plate.copies().stream().map(copy -> outline.placed(copy.place().xMm(), copy.place().yMm(),
                copy.place().turnDeg())).toList(), printer.freeBed(), Nester.room(recipe), arguments.oneByOne() ? Clearance.USUAL : null)
                .troubles().stream().map(Layout.Trouble::reason).toList();
        if (!reasons.isEmpty()) {
            throw new OutOfRange("They cannot be printed %s. %s".formatted(sequence.label(), reasons.getFirst()));
        }
        return new Laid(fit, plate);
    }

    /** Why it cannot be printed so, as sentences; empty when it can. */
    static List<String> against(Printer printer, Plate plate, Material material, BedFit fit) {
        return Readiness.of(new Job(plate, Layout.of(fit), List.of(), Optional.empty()), MachineView.of(printer),
                Stock.of(material), People.NOBODY, Policy.USUAL, Instant.EPOCH).stream()
                .filter(Obstacle::stops).map(Obstacle::reason).toList();
    }

    /** @param usual the one when none is named; null when one has to be */
    static Printer printer(Arguments arguments, @Nullable String usual) {
        List<String> ids = BuiltIn.printers().stream().map(Printer::id).toList();
        String id = arguments.word("printer").or(() -> Optional.ofNullable(usual)).orElseThrow(() -> new OutOfRange(
                "Name a printer with --printer: %s.".formatted(String.join(", ", ids))));
        Printer printer = BuiltIn.printer(id).orElseThrow(() -> new OutOfRange(unknown("printer", id, ids)));
        Kinematics kinematics = printer.kinematics();
        Nozzle nozzle = printer.nozzle();
        String prepare = arguments.word("prepare").orElse("full");
        if (!prepare.equals("full") && !prepare.equals("fresh")) {
            throw new OutOfRange(unknown("preparation", prepare, List.of("full", "fresh")));
        }
        return printer
                .with(kinematics.withAcceleration(arguments.number("acceleration", kinematics.accelerationMmS2()))
                        .withMaxFlow(arguments.number("max-flow", kinematics.maxFlowMm3S()))
                        .with(cornering(arguments, kinematics.cornering())))
                .with(new Nozzle(arguments.number("nozzle", nozzle.boreMm()), nozzle.hardened()))
                .with(prepare.equals("fresh") ? printer.preparation().fresh() : printer.preparation());
    }

    private static Cornering cornering(Arguments arguments, Cornering usual) {
        if (arguments.word("jerk").isPresent() && arguments.word("junction-deviation").isPresent()) {
            throw new OutOfRange("Corners are limited either by --jerk or by --junction-deviation.");
        }
        if (arguments.word("jerk").isPresent()) {
            return new Cornering.Jerk(arguments.number("jerk", 0));
        }
        return arguments.word("junction-deviation").isPresent()
                ? new Cornering.Deviation(arguments.number("junction-deviation", 0)) : usual;
    }

    private static Recipe recipe(Arguments arguments, Printer printer) {
        Recipe base = StartingPoint.DAILY_BREAD.recipe(printer.nozzle(), printer.kinematics());
        RecipeValues values = RecipeValues.plain(base);
        if (arguments.word(RecipeField.LAYER_HEIGHT.option()).isPresent()) {
            double layer = arguments.number(RecipeField.LAYER_HEIGHT.option(), Double.NaN);
            printer.nozzle().checkLayer(layer);
            values = values.with(RecipeField.FIRST_LAYER_HEIGHT, Math.max(layer, base.firstLayerHeightMm()));
        }
        return arguments.over(values).recipe(arguments.words("box").stream().map(PrintArguments::box).toList());
    }

    /** Six numbers, and after them what is different inside. */
    private static Zone box(String text) {
        String[] words = text.split(",");
        try {
            double[] side = Arrays.stream(words).limit(6).mapToDouble(Double::parseDouble).toArray();
            Zone box = Zone.box(side[0], side[1], side[2], side[3], side[4], side[5]);
            for (String word : Arrays.asList(words).subList(6, words.length)) {
                String value = word.substring(word.indexOf('=') + 1);
                box = switch (word.substring(0, word.length() - value.length())) {
                    case "infill=" -> box.withInfill(Double.parseDouble(value) / 100);
                    case "top=" -> box.withClosed(Integer.parseInt(value), box.bottomLayers());
                    case "bottom=" -> box.withClosed(box.topLayers(), Integer.parseInt(value));
                    case "supports=" -> box.with(Zone.Support.valueOf(value.toUpperCase(Locale.ROOT)));
                    default -> throw new IllegalArgumentException(word);
                };
            }
            return box;
        } catch (OutOfRange e) {
            throw e;
        } catch (IllegalArgumentException | IndexOutOfBoundsException e) {
            throw new OutOfRange(("--box takes X,Y,Z,X,Y,Z in mm from the part's front left lower corner, and then any of "
                    + "infill=…, top=…, bottom=…, supports=blocked or supports=enforced; “%s” was given.").formatted(text));
        }
    }

    static String unknown(String what, String given, List<String> known) {
        return "There is no %s “%s”; choose one of %s.".formatted(what, given, String.join(", ", known));
    }

    Map<String, Object> recipeJson() {
        return json(recipe, List.of(RecipeField.values()));
    }

    static Map<String, Object> json(Recipe recipe, List<RecipeField> fields) {
        Map<String, Object> values = new LinkedHashMap<>();
        fields.forEach(field -> values.put(field.jsonName(), field.json(recipe)));
        return values;
    }
}
