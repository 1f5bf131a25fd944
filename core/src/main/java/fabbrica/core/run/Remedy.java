package fabbrica.core.run;

import fabbrica.core.recipe.Adhesion;
import fabbrica.core.recipe.Pace;
import fabbrica.core.recipe.Printer;
import fabbrica.core.recipe.Recipe;
import fabbrica.core.recipe.Supports;
import java.util.Optional;

/**
 * One thing to change before a print is tried again (common practice, no source). The names are stored.
 *
 * <p>What is done by hand or with the filament comes before what changes the recipe; what changes the part comes last.
 */
public enum Remedy {
    WASH_PLATE(Kind.BY_HAND, "wash the plate with dish soap and hot water"),
    LEVEL(Kind.BY_HAND, "level the bed fully"),
    GLUE(Kind.BY_HAND, "put a thin film of washable glue on the plate"),
    CHECK_SPOOL(Kind.BY_HAND, "look that the spool unwinds freely and its path is clear"),
    CHECK_NOZZLE(Kind.BY_HAND, "look at the nozzle and its cover; clean it, or change it hot, by the maker's manual"),
    DRY_FILAMENT(Kind.BY_HAND, "dry the filament as its maker says"),
    COOLER(Kind.BY_HAND, "set the nozzle 5 °C cooler, within what the reel says"),
    HOTTER(Kind.BY_HAND, "set the nozzle 5 °C hotter, within what the reel says"),
    TIGHTEN_BELTS(Kind.BY_HAND, "tighten the belts, and look what the head can hit"),
    NO_DRAUGHT(Kind.BY_HAND, "close the door or put a screen around the machine"),
    CHECK_FILE(Kind.BY_HAND, "look that the file is this plate's and this machine's"),
    RIGHT_SPOOL(Kind.BY_HAND, "put in the spool that is planned"),
    JUST_AGAIN(Kind.BY_HAND, "nothing: print it again as it was"),
    OTHER_SPOOL(Kind.SPOOL, "take another spool of the material"),
    BRIM(Kind.RECIPE, "a brim"),
    RAFT(Kind.RECIPE, "a raft"),
    SLOWER(Kind.RECIPE, "print everything a quarter slower"),
    SLOWER_OUTER(Kind.RECIPE, "lay the outer wall a third slower"),
    SUPPORTS(Kind.RECIPE, "supports"),
    LOOSER_SUPPORTS(Kind.RECIPE, "leave more room between supports and part"),
    LONGER_LAYERS(Kind.RECIPE, "give each layer 5 s more to cool"),
    THINNER_LAYERS(Kind.RECIPE, "thinner layers"),
    NO_SUPPORTS(Kind.RECIPE, "no supports"),
    LAY_DOWN(Kind.PART, "lay it down or turn it"),
    LARGER(Kind.PART, "make it larger"),
    RIGHT_UNIT(Kind.PART, "ask in which unit it was drawn, and set it"),
    FINER_NOZZLE(Kind.PART, "print it with a finer nozzle");

    private static final double SLOWER_BY = 0.75;
    private static final double OUTER_SLOWER_BY = 0.67;
    private static final double THINNER_BY = 0.75;
    private static final double COOLS_S = 5;
    private static final double LOOSER_MM = 0.1;

    /** Who has to change it: whoever stands at the machine, the plan by itself, or whoever owns the part. */
    public enum Kind {
        BY_HAND, SPOOL, RECIPE, PART
    }

    private final Kind kind;
    private final String label;

    Remedy(Kind kind, String label) {
        this.kind = kind;
        this.label = label;
    }

    public Kind kind() {
        return kind;
    }

    /** What it asks of people, against the least (a judgement of ours): filament first, then the recipe, then the part. */
    double effort() {
        return switch (kind) {
            case BY_HAND -> this == LEVEL || this == CHECK_NOZZLE || this == TIGHTEN_BELTS ? 1.7 : 1;
            case SPOOL -> 1.1;
            case RECIPE -> 1.2;
            case PART -> 1.5;
        };
    }

    /** To go on from "change one thing:". */
    public String label() {
        return label;
    }

    /** The recipe with it; empty where it is in it already, or the nozzle cannot. Without one for what does not change the recipe. */
    public Optional<Recipe> in(Recipe recipe, Printer printer) {
        Pace pace = recipe.pace();
        return switch (this) {
            case BRIM -> recipe.adhesion() == Adhesion.NONE || recipe.adhesion() == Adhesion.SKIRT ? Optional.of(recipe.with(Adhesion.BRIM)) : Optional.empty();
            case RAFT -> recipe.adhesion() == Adhesion.RAFT ? Optional.empty() : Optional.of(recipe.with(Adhesion.RAFT));
            case SLOWER -> Optional.of(recipe.faster(SLOWER_BY));
            case SLOWER_OUTER -> Optional.of(recipe.with(pace.withOuterWall(Math.round(pace.outerWallMmS() * OUTER_SLOWER_BY))));
            case LONGER_LAYERS -> Optional.of(recipe.with(pace.withMinimumLayer(pace.minimumLayerS() + COOLS_S)));
            case SUPPORTS -> recipe.propped() ? Optional.empty() : Optional.of(recipe.with(recipe.supports().with(Supports.Where.EVERYWHERE)));
            case LOOSER_SUPPORTS -> !recipe.propped() ? Optional.empty() : Optional.of(recipe.with(looser(recipe.supports())));
            case NO_SUPPORTS -> !recipe.supports().any() ? Optional.empty() : Optional.of(recipe.with(recipe.supports().with(Supports.Where.NONE)));
            case THINNER_LAYERS -> thinner(recipe, printer);
            default -> Optional.empty();
        };
    }

    private static Supports looser(Supports supports) {
        return new Supports(supports.where(), supports.angleDeg(), supports.density(), supports.gapMm() + LOOSER_MM, supports.faceLayers());
    }

    private static Optional<Recipe> thinner(Recipe recipe, Printer printer) {
        double mm = Math.max(printer.nozzle().thinnestLayerMm(), Math.round(recipe.layerHeightMm() * THINNER_BY * 100) / 100.0);
        return mm >= recipe.layerHeightMm() ? Optional.empty() : Optional.of(recipe.withLayerHeight(mm, recipe.firstLayerHeightMm()));
    }
}
