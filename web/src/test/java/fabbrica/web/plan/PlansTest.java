package fabbrica.web.plan;

import static org.assertj.core.api.Assertions.assertThat;

import fabbrica.core.recipe.Material;
import fabbrica.core.recipe.Nozzle;
import fabbrica.core.recipe.Printer;
import fabbrica.core.recipe.Recipe;
import fabbrica.core.recipe.StartingPoint;
import fabbrica.core.trade.Way;
import fabbrica.core.trade.Ways;
import fabbrica.web.DemoLabTest;
import fabbrica.web.stores.Inventory;
import fabbrica.web.stores.StockPrinter;
import java.util.List;
import java.util.Random;
import org.junit.jupiter.api.Test;
import org.springframework.beans.factory.annotation.Autowired;

@DemoLabTest
class PlansTest {

    @Autowired
    private Plans plans;
    @Autowired
    private Inventory inventory;

    /** Whatever a row of the trade table changes, on whatever plan, taking the row gives that recipe to the last digit. */
    @Test
    void every_row_of_the_trade_table_is_the_plan_that_was_kept_for_it() {
        Random random = new Random(12);
        List<Printer> printers = inventory.printers().stream().map(StockPrinter::printer).toList();
        List<Material> materials = inventory.materials();
        for (int trial = 0; trial < 60; trial++) {
            Printer printer = printers.get(random.nextInt(printers.size()));
            StartingPoint start = StartingPoint.values()[random.nextInt(StartingPoint.values().length)];
            Recipe recipe = uneven(start.recipe(printer.nozzle(), printer.kinematics()), random);
            PlanEntry entry = new PlanEntry(start, recipe, printer.id(), null, random.nextBoolean());
            for (Way way : Ways.of(printer, recipe, materials.get(random.nextInt(materials.size())), random.nextBoolean(), true,
                    List.of(new Nozzle(0.25, false), new Nozzle(0.6, true)), printers)) {
                PlanEntry row = entry.with(way.recipe(), way.printer().id());
                Plan kept = plans.keep(row);
                assertThat(plans.plan(kept.id()).entry()).as("%s: %s", start, way.change()).isEqualTo(row);
                assertThat(plans.keep(row)).as("kept once").isEqualTo(kept);
            }
        }
    }

    /** With values that no form would show in full. */
    private static Recipe uneven(Recipe recipe, Random random) {
        double thinner = recipe.layerHeightMm() * (1 - 0.2 * random.nextDouble());
        return recipe.withLayerHeight(thinner, recipe.firstLayerHeightMm()).withInfill(random.nextDouble())
                .withWalls(1 + random.nextInt(4), recipe.lineWidthMm() * (1 + 0.1 * random.nextDouble()))
                .with(recipe.lines().withChanges(List.of(1 + random.nextDouble(), 2 + random.nextDouble() * 9)).withTower(100 * random.nextDouble()));
    }
}
