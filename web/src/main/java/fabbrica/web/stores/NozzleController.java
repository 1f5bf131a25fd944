package fabbrica.web.stores;

import static fabbrica.web.stores.StoresForms.NEW;
import static fabbrica.web.stores.StoresForms.flag;
import static fabbrica.web.stores.StoresForms.number;
import static fabbrica.web.stores.StoresForms.plain;

import fabbrica.core.recipe.Nozzle;
import fabbrica.core.units.OutOfRange;
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

/** A nozzle's form. */
@Controller
@RequestMapping("/stores/nozzles/{id}")
class NozzleController {

    private final Inventory inventory;
    private final StoresForms forms;

    NozzleController(Inventory inventory, StoresForms forms) {
        this.inventory = inventory;
        this.forms = forms;
    }

    @GetMapping
    String nozzle(@PathVariable String id, Model page) {
        StockNozzle nozzle = id.equals(NEW) ? new StockNozzle(0, new Nozzle(0.4, false), "", "", 0, null)
                : inventory.nozzle(number(id)).orElseThrow();
        MultiValueMap<String, String> values = new LinkedMultiValueMap<>();
        values.setAll(Map.of("bore", plain(nozzle.nozzle().boreMm()), "note", nozzle.note(),
                "fitting", nozzle.fitting(), "hoursBefore", plain(nozzle.hoursBefore())));
        flag(values, "hardened", nozzle.nozzle().hardened());
        values.set(Seen.FIELD, Seen.of(nozzle));
        return forms.page("nozzle", id, values, List.of(), page);
    }

    @PostMapping
    String save(@PathVariable String id, @RequestParam MultiValueMap<String, String> values, Principal who, Model page) {
        FormValues form = new FormValues(values);
        double bore = form.number("bore", "Bore");
        double before = form.text("hoursBefore").isEmpty() ? 0 : form.number("hoursBefore", "Hours run before");
        form.made(() -> OutOfRange.check("Hours run before", before, 0, 1_000_000, "h"));
        Optional<Nozzle> nozzle = form.made(() -> new Nozzle(bore, form.flag("hardened")));
        if (nozzle.isEmpty()) {
            return forms.page("nozzle", id, values, form.problems(), page);
        }
        return forms.kept(id, values, form, () -> inventory.add(nozzle.get(), form.text("fitting"), form.text("note"), before, who.getName()),
                () -> inventory.nozzle(number(id)).orElseThrow(),
                seen -> inventory.change(seen, new StockNozzle(seen.id(), nozzle.get(), form.text("fitting"),
                        form.text("note"), before, seen.mountedIn()), who.getName()),
                problems -> forms.page("nozzle", id, values, problems, page));
    }
}
