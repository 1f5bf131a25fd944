package fabbrica.web.machine;

import fabbrica.web.platform.FormValues;
import fabbrica.web.platform.Seen;
import fabbrica.web.stores.Inventory;
import fabbrica.web.stores.StockPrinter;
import java.security.Principal;
import java.util.List;
import java.util.Objects;
import java.util.Optional;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Controller;
import org.springframework.ui.Model;
import org.springframework.util.LinkedMultiValueMap;
import org.springframework.util.MultiValueMap;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.servlet.mvc.support.RedirectAttributes;

/** Where a printer's machine answers. */
@Controller
@RequestMapping("/stores/printers/{id}/machine")
class AddressController {

    private final Machines machines;
    private final MachineBook book;
    private final Inventory inventory;

    AddressController(Machines machines, MachineBook book, Inventory inventory) {
        this.machines = machines;
        this.book = book;
        this.inventory = inventory;
    }

    /** @param machine as it stands; null while it is started by hand */
    record AddressPage(StockPrinter printer, @Nullable Watched machine, @Nullable MachineAddress address) {
    }

    /** What a form was made from. */
    private record Kept(@Nullable MachineAddress address) {
    }

    @GetMapping
    String show(@PathVariable String id, Model page) {
        Optional<MachineAddress> address = book.address(id);
        MultiValueMap<String, String> values = new LinkedMultiValueMap<>();
        address.ifPresent(one -> {
            values.set("host", one.host());
            values.set("port", Integer.toString(one.port()));
            values.set("camera", Objects.toString(one.cameraPort(), ""));
        });
        return show(id, values, List.of(), page);
    }

    private String show(String id, MultiValueMap<String, String> values, List<String> problems, Model page) {
        MachineAddress address = book.address(id).orElse(null);
        values.set(Seen.FIELD, Seen.of(new Kept(address)));
        page.addAttribute("v", values.toSingleValueMap());
        page.addAttribute("problems", problems);
        page.addAttribute("page", new AddressPage(inventory.printer(id).orElseThrow(), address == null ? null : machines.of(id).orElse(null), address));
        return "machine/address";
    }

    /** The first machine that answers there is taken to be the printer's. */
    @PostMapping
    String save(@PathVariable String id, @RequestParam MultiValueMap<String, String> values, Principal who, Model page, RedirectAttributes flash) {
        FormValues form = new FormValues(values);
        Seen.unchanged(new Kept(book.address(id).orElse(null)), form);
        inventory.printer(id).orElseThrow();
        String host = form.required("host", "Host");
        int port = form.count("port", "Port");
        Integer camera = form.text("camera").isEmpty() ? null : Integer.valueOf(form.count("camera", "Port of the camera"));
        Optional<MachineAddress> address = form.fine() ? form.made(() -> new MachineAddress(id, host, port, camera, "", "")) : Optional.empty();
        if (address.isEmpty()) {
            return show(id, new LinkedMultiValueMap<>(values), form.problems(), page);
        }
        machines.connect(address.get(), who.getName());
        flash.addFlashAttribute("told", "Kept. The first machine that answers there is taken to be this printer's.");
        return "redirect:/stores/printers/%s/machine".formatted(id);
    }

    /** From now on it is started by hand. */
    @PostMapping("/remove")
    String remove(@PathVariable String id, Principal who, RedirectAttributes flash) {
        machines.disconnect(id, who.getName());
        flash.addFlashAttribute("told", "It is started by hand from now on.");
        return "redirect:/stores/printers/%s/machine".formatted(id);
    }
}
