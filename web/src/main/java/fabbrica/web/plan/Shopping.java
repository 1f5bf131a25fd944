package fabbrica.web.plan;

import fabbrica.core.units.Spoken;
import fabbrica.web.stores.Inventory;
import fabbrica.web.stores.Spools;
import fabbrica.web.stores.StockSpool;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.stream.Collectors;
import org.springframework.stereotype.Component;

/** What runs low on the shelf and what is to be bought: plastic by material and colour, against what is being printed and waits. */
@Component
class Shopping {

    /** Per cent left of all that was on the spools (common practice, no source). */
    private static final int LOW = 15;

    private final Inventory inventory;
    private final Spools spools;
    private final PlateRepository plates;

    Shopping(Inventory inventory, Spools spools, PlateRepository plates) {
        this.inventory = inventory;
        this.spools = spools;
        this.plates = plates;
    }

    /** How badly something is wanted. */
    enum Want {
        BUY, LOW, SPREAD
    }

    /**
     * Spools of one material and colour.
     *
     * @param materialId of all of them
     * @param neededG    for what is being printed and waits
     * @param thereG     that may be taken from them all, the reserve of each left on it
     * @param pricePerKg of the spool bought last, in its currency
     */
    record Item(Want want, String materialId, String colour, double neededG, double thereG, String pricePerKg) {

        /** In a sentence, with its mark. */
        public String spoken() {
            return switch (want) {
                case BUY -> "■ buy: %s more are needed than are there".formatted(Spoken.grams(neededG - thereG));
                case LOW -> "◆ runs low";
                case SPREAD -> "◆ enough in all, but not on the spools that are chosen: move some of what waits";
            };
        }
    }

    /** What is wanted most comes first. */
    List<Item> list() {
        Map<Long, Double> needed = new HashMap<>();
        for (LaidPlate plate : plates.open()) {
            if (plate.plan().spoolId() != null && plate.promise() != null) {
                needed.merge(plate.plan().spoolId(), plate.promise().grams(), Double::sum);
            }
        }
        Map<List<String>, List<StockSpool>> alike = spools.shelf().stream().collect(Collectors.groupingBy(spool -> List.of(spool.spool().materialId(),
                spool.spool().colour()), LinkedHashMap::new, Collectors.toList()));
        List<Item> items = new ArrayList<>();
        alike.values().forEach(same -> items.addAll(item(same, needed)));
        return items.stream().sorted(Comparator.comparing(Item::want).thenComparing(item -> item.thereG() - item.neededG())).toList();
    }

    private List<Item> item(List<StockSpool> same, Map<Long, Double> needed) {
        double reserve = inventory.lab().policy().reserveG();
        double there = same.stream().mapToDouble(spool -> free(spool, reserve)).sum();
        double wanted = same.stream().mapToDouble(spool -> needed.getOrDefault(spool.id(), 0.0)).sum();
        double left = same.stream().mapToDouble(spool -> spool.spool().remainingG()).sum(), once = same.stream().mapToDouble(StockSpool::netG).sum();
        StockSpool last = same.stream().max(Comparator.comparing(StockSpool::number)).orElseThrow();
        Want want;
        if (wanted > there) {
            want = Want.BUY;
        } else if (100 * (left - wanted) < LOW * once) {
            want = Want.LOW;
        } else if (same.stream().anyMatch(spool -> needed.getOrDefault(spool.id(), 0.0) > free(spool, reserve))) {
            want = Want.SPREAD;
        } else {
            return List.of();
        }
        return List.of(new Item(want, last.spool().materialId(), last.spool().colour(), wanted, there,
                Spoken.number(last.spool().pricePerKg()) + " " + last.spool().currency()));
    }

    private static double free(StockSpool spool, double reserve) {
        return Math.max(0, spool.spool().remainingG() - reserve);
    }
}
