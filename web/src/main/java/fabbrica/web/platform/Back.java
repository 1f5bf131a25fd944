package fabbrica.web.platform;

import java.util.Set;

/** Where a form leads that stands on several pages: it says which one it was sent from. */
public final class Back {

    private static final String FIELD = "from";
    private static final Set<String> PAGES = Set.of("/now", "/ledger/money");

    private Back() {
    }

    /** @param otherwise the address when it was sent from the page it belongs to */
    public static String to(FormValues form, String otherwise) {
        return "redirect:" + (PAGES.contains(form.text(FIELD)) ? form.text(FIELD) : otherwise);
    }
}
