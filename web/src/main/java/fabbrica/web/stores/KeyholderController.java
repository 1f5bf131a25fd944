package fabbrica.web.stores;

import static fabbrica.web.stores.StoresForms.NEW;
import static fabbrica.web.stores.StoresForms.flag;
import static fabbrica.web.stores.StoresForms.number;

import fabbrica.core.schedule.Calendar;
import fabbrica.core.schedule.Task;
import fabbrica.web.platform.FormValues;
import fabbrica.web.platform.Seen;
import java.security.Principal;
import java.time.LocalDate;
import java.util.Arrays;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Collectors;
import org.springframework.stereotype.Controller;
import org.springframework.ui.Model;
import org.springframework.util.LinkedMultiValueMap;
import org.springframework.util.MultiValueMap;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RequestParam;

/** The form of somebody who has a key. */
@Controller
@RequestMapping("/stores/keyholders/{id}")
class KeyholderController {

    private static final String KIND = "keyholder";
    private static final Choices CHOICES = new Choices(HoursFields.DAYS, Arrays.stream(Task.values()).collect(Collectors.toMap(Task::name, Keyholder::spoken,
            (a, b) -> a, LinkedHashMap::new)));

    private final Keyholders keyholders;
    private final Inventory inventory;
    private final StoresForms forms;

    KeyholderController(Keyholders keyholders, Inventory inventory, StoresForms forms) {
        this.keyholders = keyholders;
        this.inventory = inventory;
        this.forms = forms;
    }

    /** Labels of fields by their names: weekdays, and what somebody may do. */
    record Choices(Map<String, String> days, Map<String, String> tasks) {
    }

    @GetMapping
    String keyholder(@PathVariable String id, Model page) {
        Keyholder one = id.equals(NEW) ? new Keyholder(0, "", Set.of(Task.values()), inventory.calendar().everyWeek(), new CalendarText.Notes(Map.of()))
                : keyholders.one(number(id)).orElseThrow();
        MultiValueMap<String, String> values = new LinkedMultiValueMap<>();
        values.set("name", one.name());
        Arrays.stream(Task.values()).forEach(task -> flag(values, task.name(), one.may().contains(task)));
        HoursFields.put(one.hours(), one.notes(), values);
        values.set(Seen.FIELD, Seen.of(one));
        return form(id, values, List.of(), page);
    }

    @PostMapping
    String save(@PathVariable String id, @RequestParam MultiValueMap<String, String> values, Principal who, Model page) {
        FormValues form = new FormValues(values);
        String name = form.required("name", "Name");
        Set<Task> may = Arrays.stream(Task.values()).filter(task -> form.flag(task.name())).collect(Collectors.toSet());
        Map<LocalDate, String> notes = new LinkedHashMap<>();
        Optional<Calendar> hours = form.made(() -> HoursFields.read(form, inventory.zone(), notes));
        if (!form.fine()) {
            return form(id, values, form.problems(), page);
        }
        Keyholder kept = new Keyholder(id.equals(NEW) ? 0 : number(id), name, may, hours.orElseThrow(), new CalendarText.Notes(notes));
        return forms.kept(id, values, form, () -> keyholders.add(kept, who.getName()), () -> keyholders.one(number(id)).orElseThrow(),
                seen -> keyholders.change(seen, kept, who.getName()), problems -> form(id, values, problems, page));
    }

    private String form(String id, MultiValueMap<String, String> values, List<String> problems, Model page) {
        page.addAttribute("choices", CHOICES);
        return forms.page(KIND, id, values, problems, page);
    }
}
