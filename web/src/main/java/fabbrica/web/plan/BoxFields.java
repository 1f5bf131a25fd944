package fabbrica.web.plan;

import fabbrica.core.recipe.Zone;
import fabbrica.core.units.Spoken;
import fabbrica.web.platform.FormValues;
import java.util.ArrayList;
import java.util.List;
import org.springframework.util.MultiValueMap;

/** The boxes drawn on a part as the plan's form holds them: one value of each field for every box. */
final class BoxFields {

    private BoxFields() {
    }

    static List<Zone> read(FormValues form) {
        List<Zone> boxes = new ArrayList<>();
        for (int i = 0; i < form.all("boxLeft").size(); i++) {
            FormValues row = form.row(i);
            String name = "Box %d, ".formatted(i + 1);
            double left = row.number("boxLeft", name + "left"), right = row.number("boxRight", name + "right");
            double front = row.number("boxFront", name + "front"), back = row.number("boxBack", name + "back");
            double from = row.number("boxFrom", name + "from"), to = row.number("boxTo", name + "to");
            double infill = row.text("boxInfill").isEmpty() ? Zone.AS_RECIPE : row.number("boxInfill", name + "infill") / 100;
            int top = layers(row, "boxTop", name + "closed at top"), bottom = layers(row, "boxBottom", name + "closed at bottom");
            Zone.Support support = Zone.Support.valueOf(row.text("boxSupport"));
            form.made(() -> new Zone(left, front, from, right, back, to, 0, infill, top, bottom, support))
                    .ifPresent(boxes::add);
        }
        return boxes;
    }

    private static int layers(FormValues row, String name, String label) {
        return row.text(name).isEmpty() ? Zone.AS_RECIPE : row.count(name, label);
    }

    static void put(List<Zone> boxes, MultiValueMap<String, String> into) {
        for (Zone box : boxes) {
            into.add("boxLeft", number(box.minX()));
            into.add("boxRight", number(box.maxX()));
            into.add("boxFront", number(box.minY()));
            into.add("boxBack", number(box.maxY()));
            into.add("boxFrom", number(box.minZ()));
            into.add("boxTo", number(box.maxZ()));
            into.add("boxInfill", box.infill() == Zone.AS_RECIPE ? "" : number(box.infill() * 100));
            into.add("boxTop", box.topLayers() == Zone.AS_RECIPE ? "" : number(box.topLayers()));
            into.add("boxBottom", box.bottomLayers() == Zone.AS_RECIPE ? "" : number(box.bottomLayers()));
            into.add("boxSupport", box.support().name());
        }
    }

    private static String number(double value) {
        return Spoken.number(value, 3);
    }
}
