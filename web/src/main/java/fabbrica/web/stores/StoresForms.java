package fabbrica.web.stores;

import fabbrica.core.judge.UsedBy;
import fabbrica.core.units.Spoken;
import fabbrica.web.platform.FormTokens;
import fabbrica.web.platform.FormValues;
import fabbrica.web.platform.Outdated;
import fabbrica.web.platform.Seen;
import java.util.Arrays;
import java.util.List;
import java.util.Locale;
import java.util.NoSuchElementException;
import java.util.function.Consumer;
import java.util.function.Function;
import java.util.function.Supplier;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Component;
import org.springframework.ui.Model;
import org.springframework.util.MultiValueMap;

/** What the forms of the Stores have in common: one that cannot be used comes back as it was filled in. */
@Component
class StoresForms {

    /** Stands in an address where something is to be added. */
    static final String NEW = "new";
    static final String BACK = "redirect:/stores";

    private final FormTokens tokens;

    StoresForms(FormTokens tokens) {
        this.tokens = tokens;
    }

    /** @param all what stands in it, of fields with several values all of them */
    record Form(String id, boolean isNew, MultiValueMap<String, String> all) {
    }

    /** The page of a form with what stands in it. */
    String page(String kind, String id, MultiValueMap<String, String> values, List<String> problems, Model page) {
        page.addAttribute("form", new Form(id, id.equals(NEW), values));
        page.addAttribute("v", values.toSingleValueMap());
        page.addAttribute("problems", problems);
        return "stores/" + kind;
    }

    /** Takes a step once, however often its form is sent. */
    void once(FormValues form, Runnable step) {
        tokens.once(form, step);
    }

    /**
     * Adds or changes something; a form that no longer shows what is comes back as it was filled in.
     *
     * @param again the form with what kept it from being kept
     */
    <T> String kept(String id, MultiValueMap<String, String> values, FormValues form, Runnable add, Supplier<T> now,
                    Consumer<T> change, Function<List<String>, String> again) {
        if (id.equals(NEW)) {
            tokens.once(form, add);
            return BACK;
        }
        try {
            change.accept(Seen.unchanged(now.get(), form));
            return BACK;
        } catch (Outdated outdated) {
            values.set(Seen.FIELD, Seen.of(now.get()));
            return again.apply(List.of(outdated.getMessage()));
        }
    }

    static void flag(MultiValueMap<String, String> values, String name, boolean set) {
        if (set) {
            values.set(name, "on");
        }
    }

    /** Who may use a printer; whoever is trained when nothing is chosen. */
    static UsedBy usedBy(FormValues form) {
        return Arrays.stream(UsedBy.values()).filter(each -> each.name().equals(form.text("usedBy"))).findFirst().orElse(UsedBy.TRAINED);
    }

    /** A new key from a name: lower case letters and digits, made unique. */
    static String key(String name, List<String> taken) {
        String plain = name.toLowerCase(Locale.ROOT).replaceAll("[^a-z0-9]+", "-").replaceAll("^-|-$", "");
        String base = plain.isEmpty() || plain.equals(NEW) ? "item" : plain;
        String key = base;
        for (int i = 2; taken.contains(key); i++) {
            key = base + "-" + i;
        }
        return key;
    }

    static long number(String id) {
        try {
            return Long.parseLong(id);
        } catch (NumberFormatException e) {
            throw new NoSuchElementException();
        }
    }

    static String plain(double value) {
        return Spoken.number(value, 3);
    }

    /** A number that may be left out. */
    static @Nullable Double optional(FormValues form, String name, String label) {
        return form.text(name).isEmpty() ? null : Double.valueOf(form.number(name, label));
    }
}
