package fabbrica.web.floor;

import fabbrica.core.schedule.Calendar;
import fabbrica.core.schedule.Schedule;
import fabbrica.web.plan.Forecasts;
import fabbrica.web.platform.FormValues;
import fabbrica.web.platform.Moments;
import fabbrica.web.platform.Refusal;
import fabbrica.web.platform.Seen;
import fabbrica.web.stores.Duty;
import fabbrica.web.stores.Inventory;
import fabbrica.web.stores.Keyholder;
import fabbrica.web.stores.Keyholders;
import java.security.Principal;
import java.time.Instant;
import java.time.LocalDate;
import java.time.LocalTime;
import java.time.ZonedDateTime;
import java.util.List;
import org.jspecify.annotations.Nullable;
import org.springframework.format.annotation.DateTimeFormat;
import org.springframework.stereotype.Controller;
import org.springframework.ui.Model;
import org.springframework.util.MultiValueMap;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.servlet.mvc.support.RedirectAttributes;

/** Somebody leaves early, or the lab closes: what that moves is shown before it is done. */
@Controller
class DutyController {

    private final Keyholders keyholders;
    private final Inventory inventory;
    private final Forecasts forecasts;
    private final Claims claims;
    private final Moments moments;

    DutyController(Keyholders keyholders, Inventory inventory, Forecasts forecasts, Claims claims, Moments moments) {
        this.keyholders = keyholders;
        this.inventory = inventory;
        this.forecasts = forecasts;
        this.claims = claims;
        this.moments = moments;
    }

    /** What would be printed at another time if somebody left now. */
    record LeavesPage(Keyholder keyholder, List<Moved> moved) {
    }

    /** @param calendar the opening hours as they are */
    record ClosingPage(LocalDate day, boolean today, boolean open, Calendar calendar, List<Moved> moved) {
    }

    @GetMapping("/floor/leaves/{id}")
    String leaves(@PathVariable long id, Model page) {
        Keyholder keyholder = keyholders.one(id).orElseThrow();
        page.addAttribute("page", new LeavesPage(keyholder, moved(keyholders.duty().with(leaving(keyholder)))));
        return "floor/leaves";
    }

    @PostMapping("/floor/leaves/{id}")
    String leave(@PathVariable long id, @RequestParam MultiValueMap<String, String> values, Principal who, RedirectAttributes flash) {
        Keyholder keyholder = Seen.unchanged(keyholders.one(id).orElseThrow(), new FormValues(values));
        keyholders.change(keyholder, leaving(keyholder), who.getName());
        flash.addFlashAttribute("told", "%s is off duty for today.".formatted(keyholder.name()));
        return "redirect:/floor";
    }

    @GetMapping("/floor/closing")
    String closing(@RequestParam(required = false) @DateTimeFormat(iso = DateTimeFormat.ISO.DATE) @Nullable LocalDate day, Model page) {
        LocalDate on = day == null ? now().toLocalDate() : day;
        Calendar calendar = inventory.calendar();
        Calendar closed = calendar.endingAt(on, minute(on));
        page.addAttribute("page", new ClosingPage(on, on.equals(now().toLocalDate()), !closed.on(on).equals(calendar.on(on)), calendar,
                moved(keyholders.duty().with(closed))));
        return "floor/closing";
    }

    @PostMapping("/floor/closing")
    String close(@RequestParam MultiValueMap<String, String> values, Principal who, RedirectAttributes flash) {
        FormValues form = new FormValues(values);
        LocalDate on = form.day("day", "Day").orElseThrow(() -> new Refusal("Choose a day."));
        if (on.isBefore(now().toLocalDate())) {
            throw new Refusal("That day is over.");
        }
        Calendar calendar = Seen.unchanged(inventory.calendar(), form);
        inventory.change(calendar, calendar.endingAt(on, minute(on)), inventory.specialDays().with(on, form.text("note")), who.getName());
        flash.addFlashAttribute("told", "The lab is closed: %s.".formatted(moments.day(on)));
        return "redirect:/floor";
    }

    private ZonedDateTime now() {
        return moments.now().atZone(inventory.zone());
    }

    /** From which minute of a day on it is over: now for today, midnight before for another. */
    private int minute(LocalDate day) {
        LocalTime time = now().toLocalTime();
        return day.equals(now().toLocalDate()) ? time.getHour() * 60 + time.getMinute() : 0;
    }

    private Keyholder leaving(Keyholder keyholder) {
        LocalDate today = now().toLocalDate();
        return keyholder.leaving(today, minute(today), "left early");
    }

    /** What would be printed at another time, that which would start soonest first. */
    private List<Moved> moved(Duty duty) {
        Forecasts.Floor floor = forecasts.floor();
        Schedule then = floor.with(duty);
        return Moved.between(floor.waiting(), floor.schedule(), then, claims.needed(floor.waiting()));
    }
}
