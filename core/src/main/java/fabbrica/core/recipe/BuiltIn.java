package fabbrica.core.recipe;

import fabbrica.core.bed.Bed;
import java.util.Currency;
import java.util.List;
import java.util.Optional;
import java.util.Set;

/**
 * Made-up machines and usual materials for work without a lab's own list. Densities are typical handbook values
 * (values from memory); heating and levelling times are common practice, no source.
 */
public final class BuiltIn {

    public static final Material PLA = new Material("pla", "PLA", 1.24, 210, 60, false, false);
    public static final Material PETG = new Material("petg", "PETG", 1.27, 240, 80, false, false);
    public static final Material ABS = new Material("abs", "ABS", 1.04, 245, 100, false, true);
    public static final Material TPU = new Material("tpu", "TPU", 1.21, 225, 45, false, false);
    public static final Material PLA_WOOD = new Material("pla-wood", "PLA with wood", 1.15, 205, 60, true, false);
    public static final Material PA_CARBON =
            new Material("pa-carbon", "Nylon with carbon fibre", 1.18, 280, 90, true, true);

    private static final Set<String> PLAIN = Set.of("pla", "petg", "tpu", "pla-wood");
    private static final Set<String> ALL = Set.of("pla", "petg", "tpu", "pla-wood", "abs", "pa-carbon");

    private static final Printer SMALL = new Printer("small", "Small", Bed.of(120, 120, 120), new Nozzle(0.4, false),
            new Kinematics(150, 800, 6, 8, 8, 1, 35), new Preparation(0.3, 2.5, 20, 60, 15, 30),
            1.75, false, 260, 80, PLAIN);
    private static final Printer STANDARD = new Printer("standard", "Standard", Bed.of(220, 220, 250),
            new Nozzle(0.4, false), new Kinematics(180, 1000, 8, 10, 11, 1, 40),
            new Preparation(0.25, 2.5, 25, 120, 20, 60), 1.75, false, 260, 100, PLAIN);
    private static final Printer LARGE = new Printer("large", "Large", Bed.of(350, 350, 400), new Nozzle(0.6, true),
            new Kinematics(150, 700, 6, 8, 18, 1.5, 35), new Preparation(0.12, 2, 35, 240, 25, 120),
            1.75, false, 280, 100, PLAIN);
    /** Commands come from its own storage, and it holds more of them (common practice, no source). */
    private static final Board FAST_BOARD = Board.USUAL.withAccelerations(10_000, 10_000, 500, 5000).withLookAhead(64, 5000);

    private static final Printer FAST = new Printer("fast", "Fast enclosed",
            new Bed(250, 250, 250, List.of(new Bed.Zone(0, 0, 18, 28))), new Nozzle(0.4, true),
            new Kinematics(500, 10_000, new Cornering.AtSpeed(12), 20, 24, 0.8, 30, FAST_BOARD), new Preparation(0.4, 6, 30, 300, 100, 45, 150, 0, 10, 60),
            1.75, true, 300, 110, ALL);

    private BuiltIn() {
    }

    public static List<Printer> printers() {
        return List.of(SMALL, STANDARD, LARGE, FAST);
    }

    public static List<Material> materials() {
        return List.of(PLA, PETG, ABS, TPU, PLA_WOOD, PA_CARBON);
    }

    public static Optional<Printer> printer(String id) {
        return printers().stream().filter(printer -> printer.id().equals(id)).findFirst();
    }

    public static Optional<Material> material(String id) {
        return materials().stream().filter(material -> material.id().equals(id)).findFirst();
    }

    /** A full spool at a usual price (20 to 30 a kilogram in most currencies: common practice, no source). */
    public static Spool spool(Material material) {
        return new Spool("built-in", material.id(), "any", 1000, 25, Currency.getInstance("EUR"));
    }
}
