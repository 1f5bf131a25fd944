package fabbrica.cli;

import fabbrica.core.bed.BedFit;
import fabbrica.core.bed.Footprint;
import fabbrica.core.estimate.Difference;
import fabbrica.core.estimate.Expected;
import fabbrica.core.inspect.Poses;
import fabbrica.core.inspect.Slopes;
import fabbrica.core.mesh.model.Mesh;
import fabbrica.core.mesh.model.Rotation;
import fabbrica.core.printing.PrintShop;
import fabbrica.core.recipe.BuiltIn;
import fabbrica.core.recipe.Part;
import fabbrica.core.recipe.Plate;
import fabbrica.core.recipe.Printer;
import fabbrica.core.recipe.RecipeField;
import fabbrica.core.trade.TradeTable;
import fabbrica.core.trade.TradeTable.Row;
import fabbrica.core.trade.Way;
import fabbrica.core.trade.Ways;
import fabbrica.core.units.OutOfRange;
import fabbrica.core.units.Progress;
import fabbrica.core.units.Spoken;
import java.io.IOException;
import java.io.PrintWriter;
import java.time.Instant;
import java.time.OffsetDateTime;
import java.time.temporal.ChronoUnit;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.apache.commons.cli.ParseException;
import org.jspecify.annotations.Nullable;

/** {@code trade IN --printer ID}: other ways of printing the same, with what each gains and loses. */
record TradeCommand(PrintWriter out, PrintWriter err) implements Fabbrica.Command {

    /** What ways of printing the same change. */
    private static final List<RecipeField> CHANGED = List.of(RecipeField.LAYER_HEIGHT, RecipeField.WALLS, RecipeField.LINE_WIDTH,
            RecipeField.INFILL, RecipeField.SPEED);

    @Override
    public int run(Arguments arguments) throws IOException, ParseException {
        PrintArguments print = PrintArguments.of(arguments);
        Mesh mesh = PrintArguments.model(PrintArguments.onlyFile(arguments), arguments);
        Instant start = moment(arguments, "start").orElseGet(() -> Instant.now().truncatedTo(ChronoUnit.MINUTES));
        Optional<Instant> neededBy = moment(arguments, "needed-by");
        List<Printer> others = BuiltIn.printers().stream()
                .filter(printer -> !printer.id().equals(print.printer().id())).toList();
        Rotation best = Poses.of(mesh).getFirst().rotation();
        PrintShop shop = PrintArguments.shop(mesh);
        List<Way> ways = Ways.of(print.printer(), print.recipe(), print.material(), false, !best.sameWayUp(Rotation.NONE), List.of(), others);
        List<Row> rows = new ArrayList<>();
        for (Way way : ways) {
            Part part = PrintArguments.part().turned(way.turned() ? best : Rotation.NONE).scaled(way.scale());
            BedFit fit = BedFit.of(Footprint.of(PrintArguments.mesh(mesh, part)), way.printer().freeBed(), way.recipe().allowance());
            Plate plate = Plate.of(part, new Plate.Place(fit.x(), fit.y(), fit.rotationDeg()), way.recipe());
            if (rows.isEmpty() || PrintArguments.against(way.printer(), plate, print.material(), fit).isEmpty()) {
                rows.add(Row.of(way, Expected.unlearned(shop.estimate(plate, way.printer(), print.material(), Progress.IGNORED)), start));
            }
        }
        TradeTable table = TradeTable.of(rows, new TradeTable.Shape(Slopes.shallowShare(mesh), Double.POSITIVE_INFINITY));
        if (arguments.json()) {
            Json.print(json(table, neededBy), out);
        } else {
            print(table, neededBy);
        }
        return Fabbrica.FINE;
    }

    private static Optional<Instant> moment(Arguments arguments, String name) {
        return arguments.word(name).map(word -> {
            try {
                return OffsetDateTime.parse(word).toInstant();
            } catch (java.time.format.DateTimeParseException e) {
                throw new OutOfRange("--%s takes a moment such as 2026-05-04T17:00+02:00; “%s” was given.".formatted(name,
                        word));
            }
        });
    }

    private static Map<String, Object> json(TradeTable table, Optional<Instant> neededBy) {
        Expected plan = table.rows().getFirst().expected();
        return Json.object("needed_by", neededBy.map(Instant::toString).orElse(null),
                "rows", table.rows().stream().map(row -> json(row, plan, neededBy)).toList(),
                "fastest_that_looks_right", change(table.fastestThatLooksRight()),
                "least_plastic", change(table.leastPlastic()),
                "finest_in_time", change(neededBy.flatMap(table::finestReadyBy)));
    }

    private static Map<String, Object> json(Row row, Expected plan, Optional<Instant> neededBy) {
        Map<String, Object> json = Json.object("change", row.way().change(), "printer", row.way().printer().id());
        json.putAll(PrintArguments.json(row.way().recipe(), CHANGED));
        json.putAll(Json.object("scale", row.way().scale(), "turned", row.way().turned(), "time_s", row.expected().totalSeconds(),
                "g", row.expected().grams(), "ready", row.ready().toString(), "in_time", neededBy.map(row::inTime).orElse(null),
                "gained_and_lost", row.gained(), "differences", Difference.between(plan, row.expected()).stream().map(difference -> Json.object(
                        "phase", difference.phase().code(), "more_s", difference.moreSeconds())).toList()));
        return json;
    }

    private static @Nullable String change(Optional<Row> row) {
        return row.map(r -> r.way().change()).orElse(null);
    }

    private void print(TradeTable table, Optional<Instant> neededBy) {
        for (Row row : table.rows()) {
            out.printf("%s %-40s %10s %9s  %s%n", neededBy.map(by -> row.inTime(by) ? "●" : "■").orElse(" "),
                    row.way().change(), Spoken.duration(row.way().setupS() + row.expected().totalSeconds()),
                    Spoken.grams(row.expected().grams()), row.gained());
        }
    }
}
