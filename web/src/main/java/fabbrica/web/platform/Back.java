package fabbrica.web.platform;

import java.util.regex.Pattern;

/** Where a form leads that stands on several pages, or that one comes to from several: it says which one it was. */
public final class Back {

    private static final String FIELD = "from";
    private static final Pattern PAGES = Pattern.compile("/now|/ledger/money|/tickets/\\d+");

    private Back() {
    }

    /** @param otherwise the address when it was sent from the page it belongs to */
    public static String to(FormValues form, String otherwise) {
        return "redirect:" + (PAGES.matcher(form.text(FIELD)).matches() ? form.text(FIELD) : otherwise);
    }
}
