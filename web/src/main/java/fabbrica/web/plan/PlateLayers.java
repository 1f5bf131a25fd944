package fabbrica.web.plan;

import fabbrica.core.recipe.Material;
import fabbrica.core.run.Circumstances.LaidLayer;
import fabbrica.core.toolpath.Layer;
import fabbrica.core.toolpath.Toolpath.Change;
import fabbrica.web.platform.Refusal;
import fabbrica.web.platform.Shop;
import fabbrica.web.platform.Standing;
import fabbrica.web.stores.Inventory;
import java.util.List;
import java.util.Set;
import java.util.stream.Collectors;
import java.util.stream.IntStream;
import org.springframework.stereotype.Service;

/** The layers of plates, as somebody asks who wants to know why one went wrong. */
@Service
public class PlateLayers {

    private final LaidLayers layers;
    private final Inventory inventory;

    PlateLayers(LaidLayers layers, Inventory inventory) {
        this.layers = layers;
        this.inventory = inventory;
    }

    /** From the bed up; none of a file sliced elsewhere, which does not say how long they take. */
    public Standing<List<LaidLayer>> ask(LaidPlate plate, Material material) {
        try {
            return layers.ask(layers.source(new Shop.Request(plate.plate(), plate.plan().on(inventory.printer(plate.plan().printerId()).orElseThrow().printer()), material)))
                    .map(PlateLayers::laid);
        } catch (Refusal tooLarge) {
            return new Standing.Done<>(List.of());
        }
    }

    private static List<LaidLayer> laid(LaidLayers.Drawn drawn) {
        List<Layer> layers = drawn.toolpath().layers();
        Set<Integer> changes = drawn.toolpath().changes().stream().map(Change::layer).collect(Collectors.toSet());
        return IntStream.range(0, drawn.seconds().size()).mapToObj(i -> new LaidLayer(layers.get(i).topMm(), drawn.seconds().get(i), sectionMm2(layers.get(i)), changes.contains(i)))
                .toList();
    }

    /** Of the parts themselves. */
    private static double sectionMm2(Layer layer) {
        return IntStream.range(0, layer.pathCount()).filter(path -> switch (layer.type(path)) {
            case ADHESION, SUPPORT, SUPPORT_FACE, PURGE, TRAVEL -> false;
            default -> true;
        }).mapToDouble(layer::mm3).sum() / layer.heightMm();
    }
}
