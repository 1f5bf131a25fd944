package fabbrica.web.platform;

/** A step asked for from a page that no longer shows what is: somebody else came first, or the same form was sent twice. */
public final class Outdated extends Refusal {

    public Outdated() {
        super("This has been changed since the page was opened: by somebody else, or because the form was sent twice. "
                + "Look at what it is now, then repeat what is still needed.");
    }
}
