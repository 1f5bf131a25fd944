package fabbrica.web.plan;

import fabbrica.core.recipe.Material;
import fabbrica.web.stores.Inventory;
import java.util.List;
import org.springframework.stereotype.Controller;
import org.springframework.ui.Model;
import org.springframework.web.bind.annotation.GetMapping;

/** The shopping list. */
@Controller
class ShoppingController {

    private final Shopping shopping;
    private final Inventory inventory;

    ShoppingController(Shopping shopping, Inventory inventory) {
        this.shopping = shopping;
        this.inventory = inventory;
    }

    /** @param materials for their names */
    record ShoppingPage(List<Shopping.Item> items, List<Material> materials) {
    }

    @GetMapping("/stores/shopping")
    String shopping(Model page) {
        page.addAttribute("page", new ShoppingPage(shopping.list(), inventory.materials()));
        return "plan/shopping";
    }
}
