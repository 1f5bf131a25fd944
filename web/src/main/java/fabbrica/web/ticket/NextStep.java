package fabbrica.web.ticket;

/**
 * The one thing that is to be done next with a ticket, kept in view on its page.
 *
 * @param label   of what is pressed; empty when there is nothing to press now
 * @param form    of the page that is sent by it; empty when it leads elsewhere
 * @param address it leads to, when it does
 * @param ready   whether it can be pressed
 * @param hint    a sentence on what is waited for or to be minded; may be empty
 */
public record NextStep(String label, String form, String address, boolean ready, String hint) {

    /** Sends a form of the page. */
    public static NextStep press(String label, String form, String hint) {
        return new NextStep(label, form, "", true, hint);
    }

    /** The same, not possible yet. */
    public static NextStep later(String label, String form, String hint) {
        return new NextStep(label, form, "", false, hint);
    }

    /** Leads to another page, or to another place on this one. */
    public static NextStep go(String label, String address, String hint) {
        return new NextStep(label, "", address, true, hint);
    }

    /** Whether it is taken on this page. */
    boolean isHere() {
        return !form.isEmpty() || address.startsWith("#");
    }

    /** There is nothing to do but to wait. */
    public static NextStep nothing(String hint) {
        return new NextStep("", "", "", false, hint);
    }
}
