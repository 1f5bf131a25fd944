package fabbrica.web.stores;

import static fabbrica.web.stores.StoresForms.plain;

import fabbrica.core.estimate.Tariff;
import fabbrica.core.judge.BedCare;
import fabbrica.core.judge.Policy;
import fabbrica.core.schedule.Calendar;
import fabbrica.core.units.OutOfRange;
import fabbrica.web.platform.FormValues;
import fabbrica.web.platform.Seen;
import java.security.Principal;
import java.time.LocalDate;
import java.time.ZoneId;
import java.util.Currency;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import org.springframework.stereotype.Controller;
import org.springframework.ui.Model;
import org.springframework.util.LinkedMultiValueMap;
import org.springframework.util.MultiValueMap;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RequestParam;

/** The lab's own settings: name, money, how long things are kept; and when it is open. */
@Controller
@RequestMapping("/stores/lab")
class LabController {

    private static final String SETTINGS = "settings";
    private static final String HOURS = "hours";

    private final Inventory inventory;
    private final StoresForms forms;

    LabController(Inventory inventory, StoresForms forms) {
        this.inventory = inventory;
        this.forms = forms;
    }

    @GetMapping("/settings")
    String lab(Model page) {
        Lab lab = inventory.lab();
        MultiValueMap<String, String> values = new LinkedMultiValueMap<>();
        values.setAll(Map.of("name", lab.name(), "currency", lab.currency().getCurrencyCode(),
                "zone", lab.zone() == null ? "" : lab.zone().getId(), "limitMb", plain(lab.limitMb())));
        TariffFields.values(lab.tariff()).forEach(values::set);
        PolicyFields.put(lab.policy(), values);
        values.set("keepModels", plain(lab.keeping().modelsDays()));
        values.set("keepPhotos", plain(lab.keeping().photosDays()));
        values.set("keepMembers", plain(lab.keeping().membersDays()));
        values.set("remindDays", plain(lab.keeping().remindDays()));
        values.set("shelfDays", plain(lab.keeping().shelfDays()));
        values.set("round", String.join("\n", lab.round()));
        values.set(Seen.FIELD, Seen.of(lab));
        return settings(values, List.of(), page);
    }

    @PostMapping("/settings")
    String saveLab(@RequestParam MultiValueMap<String, String> values, Principal who, Model page) {
        FormValues form = new FormValues(values);
        String name = form.required("name", "Name");
        int limit = form.count("limitMb", "File limit");
        String currency = form.required("currency", "Currency").toUpperCase(Locale.ROOT);
        if (Currency.getAvailableCurrencies().stream().noneMatch(c -> c.getCurrencyCode().equals(currency))) {
            form.problem("Currency takes a three-letter code such as EUR.");
        }
        String zone = form.text("zone");
        if (!zone.isEmpty() && !ZoneId.getAvailableZoneIds().contains(zone)) {
            form.problem("There is no time zone “%s”. Names read like Europe/Vienna; left empty, the computer's holds.".formatted(zone));
        }
        form.made(() -> OutOfRange.check("File limit", limit, 1, 2000));
        Optional<Tariff> tariff = TariffFields.read(form);
        Optional<Policy> policy = PolicyFields.read(form);
        int models = form.count("keepModels", "Days that models are kept");
        int photos = form.count("keepPhotos", "Days that photos are kept");
        int members = form.count("keepMembers", "Days that members are kept");
        int remind = form.count("remindDays", "Days between reminders"), shelf = form.count("shelfDays", "Days on the shelf");
        Optional<Keeping> keeping = form.made(() -> new Keeping(models, photos, members, remind, shelf));
        if (!form.fine()) {
            return settings(values, form.problems(), page);
        }
        Lab lab = new Lab(name, Currency.getInstance(currency), zone.isEmpty() ? null : ZoneId.of(zone), limit, tariff.orElseThrow(),
                policy.orElseThrow(), keeping.orElseThrow(), form.text("round").lines().map(String::strip).filter(place -> !place.isEmpty()).toList());
        return forms.kept(SETTINGS, values, form, () -> { }, inventory::lab, seen -> inventory.change(seen, lab, who.getName()),
                problems -> settings(values, problems, page));
    }

    @GetMapping("/hours")
    String hours(Model page) {
        Calendar calendar = inventory.calendar();
        MultiValueMap<String, String> values = new LinkedMultiValueMap<>();
        HoursFields.put(calendar, inventory.specialDays(), values);
        values.set(Seen.FIELD, Seen.of(calendar));
        return hours(values, List.of(), page);
    }

    @PostMapping("/hours")
    String saveHours(@RequestParam MultiValueMap<String, String> values, Principal who, Model page) {
        FormValues form = new FormValues(values);
        Map<LocalDate, String> notes = new LinkedHashMap<>();
        Optional<Calendar> calendar = form.made(() -> HoursFields.read(form, inventory.zone(), notes));
        if (calendar.filter(Calendar::isNeverStaffed).isPresent()) {
            form.problem("Say when the lab is open on at least one day; otherwise nothing can be promised.");
        }
        if (!form.fine()) {
            return hours(values, form.problems(), page);
        }
        return forms.kept(HOURS, values, form, () -> { }, inventory::calendar,
                seen -> inventory.change(seen, calendar.orElseThrow(), new CalendarText.Notes(notes), who.getName()),
                problems -> hours(values, problems, page));
    }

    /** What the lab's form asks. */
    record LabPage(List<TariffFields.Field> tariff, BedCare.School[] schools) {
    }

    private String settings(MultiValueMap<String, String> values, List<String> problems, Model page) {
        page.addAttribute("page", new LabPage(TariffFields.ALL, BedCare.School.values()));
        return forms.page("lab", SETTINGS, values, problems, page);
    }

    private String hours(MultiValueMap<String, String> values, List<String> problems, Model page) {
        page.addAttribute("days", HoursFields.DAYS);
        return forms.page(HOURS, HOURS, values, problems, page);
    }
}
