package fabbrica.web.stores;

import static fabbrica.web.stores.StoresForms.NEW;
import static fabbrica.web.stores.StoresForms.flag;
import static fabbrica.web.stores.StoresForms.key;
import static fabbrica.web.stores.StoresForms.plain;

import fabbrica.core.recipe.BuiltIn;
import fabbrica.core.recipe.Material;
import fabbrica.web.platform.FormValues;
import fabbrica.web.platform.Seen;
import java.security.Principal;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.springframework.stereotype.Controller;
import org.springframework.ui.Model;
import org.springframework.util.LinkedMultiValueMap;
import org.springframework.util.MultiValueMap;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RequestParam;

/** A material's form. */
@Controller
@RequestMapping("/stores/materials/{id}")
class MaterialController {

    private final Inventory inventory;
    private final StoresForms forms;

    MaterialController(Inventory inventory, StoresForms forms) {
        this.inventory = inventory;
        this.forms = forms;
    }

    @GetMapping
    String material(@PathVariable String id, Model page) {
        Material material = id.equals(NEW) ? BuiltIn.PLA : inventory.material(id).orElseThrow();
        MultiValueMap<String, String> values = new LinkedMultiValueMap<>();
        values.setAll(Map.of("name", id.equals(NEW) ? "" : material.name(),
                "density", plain(material.densityGPerCm3()), "nozzleC", plain(material.nozzleC()),
                "bedC", plain(material.bedC())));
        flag(values, "abrasive", material.abrasive());
        flag(values, "enclosed", material.enclosed());
        values.set(Seen.FIELD, Seen.of(material));
        return forms.page("material", id, values, List.of(), page);
    }

    @PostMapping
    String save(@PathVariable String id, @RequestParam MultiValueMap<String, String> values, Principal who, Model page) {
        FormValues form = new FormValues(values);
        String name = form.required("name", "Name");
        double density = form.number("density", "Density");
        int nozzle = form.count("nozzleC", "Nozzle temperature");
        int bed = form.count("bedC", "Bed temperature");
        String key = id.equals(NEW) ? key(name, inventory.materials().stream().map(Material::id).toList()) : id;
        Optional<Material> material = form.made(() -> new Material(key, name, density, nozzle, bed,
                form.flag("abrasive"), form.flag("enclosed")));
        if (material.isEmpty()) {
            return forms.page("material", id, values, form.problems(), page);
        }
        return forms.kept(id, values, form, () -> inventory.add(material.get(), who.getName()), () -> inventory.material(id).orElseThrow(),
                seen -> inventory.change(seen, material.get(), who.getName()), problems -> forms.page("material", id, values, problems, page));
    }
}
