package fabbrica.web;

import com.microsoft.playwright.Locator;
import com.microsoft.playwright.Page;
import java.util.function.Consumer;

/** What a way through the pages takes: fills, choices and clicks, pages loaded, and how far they had to be moved. */
final class Tally {

    private final Page page;
    private int actions;
    private int loads;

    Tally(Page page) {
        this.page = page;
        page.addInitScript("""
                let last = 0;
                addEventListener('scroll', () => { sessionStorage.moved = Number(sessionStorage.moved ?? 0) + Math.abs(scrollY - last); last = scrollY; });""");
        page.onLoad(loaded -> loads++);
    }

    /**
     * Something a person does, once the page has come; what is not in sight is brought there first, as it would be by hand. Steps cannot be pressed
     * before, and the driver moves the page while it tries again and again.
     */
    void act(Locator with, Consumer<Locator> action) {
        page.locator("html.whole").waitFor();
        action.accept(with);
        actions++;
    }

    int actions() {
        return actions;
    }

    int loads() {
        return loads;
    }

    /** CSS pixels, up and down alike. */
    double moved() {
        return ((Number) page.evaluate("() => Number(sessionStorage.moved ?? 0)")).doubleValue();
    }

    @Override
    public String toString() {
        return "%d actions, %d page loads, %.0f px".formatted(actions, loads, moved());
    }
}
