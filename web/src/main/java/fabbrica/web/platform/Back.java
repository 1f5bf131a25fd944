package fabbrica.web.platform;

/** Where a form leads that stands on several pages: it says which one it was sent from. */
public final class Back {

    private static final String FIELD = "from";
    private static final String NOW = "/now";

    private Back() {
    }

    /** @param otherwise the address when it was sent from the page it belongs to */
    public static String to(FormValues form, String otherwise) {
        return "redirect:" + (form.text(FIELD).equals(NOW) ? NOW : otherwise);
    }
}
