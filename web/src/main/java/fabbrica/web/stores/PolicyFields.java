package fabbrica.web.stores;

import static fabbrica.web.stores.StoresForms.flag;
import static fabbrica.web.stores.StoresForms.plain;

import fabbrica.core.judge.BedCare;
import fabbrica.core.judge.BedCare.School;
import fabbrica.core.judge.Policy;
import fabbrica.web.platform.FormValues;
import java.util.Arrays;
import java.util.Optional;
import org.springframework.util.MultiValueMap;

/** The house's rules as the lab's form holds them. */
final class PolicyFields {

    private PolicyFields() {
    }

    static void put(Policy policy, MultiValueMap<String, String> into) {
        into.set("fairGrams", plain(policy.fairGrams()));
        into.set("fairHours", plain(policy.fairHours()));
        flag(into, "fairUseStops", policy.fairUseStops());
        flag(into, "badgesRequired", policy.badgesRequired());
        flag(into, "grownUpsRequired", policy.grownUpsRequired());
        flag(into, "unattendedAllowed", policy.unattended());
        into.set("trinketMinutes", plain(policy.trinketMinutes()));
        into.set("trinketCm3", plain(policy.trinketCm3()));
        into.set("reserveG", plain(policy.reserveG()));
        into.set("refused", policy.refused());
        into.set("school", policy.bedCare().school().name());
        flag(into, "glue", policy.bedCare().glue());
    }

    static Optional<Policy> read(FormValues form) {
        double grams = form.number("fairGrams", "Fair use, grams"), hours = form.number("fairHours", "Fair use, hours");
        double minutes = form.number("trinketMinutes", "A trinket takes"), volume = form.number("trinketCm3", "A trinket has");
        double reserve = form.number("reserveG", "Left on a spool");
        return form.made(() -> new Policy(grams, hours, form.flag("fairUseStops"), form.flag("badgesRequired"), form.flag("grownUpsRequired"),
                form.flag("unattendedAllowed"), minutes, volume, reserve, form.text("refused"), new BedCare(Arrays.stream(School.values())
                .filter(school -> school.name().equals(form.text("school"))).findFirst().orElse(BedCare.USUAL.school()), form.flag("glue"))));
    }
}
