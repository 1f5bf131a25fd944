package fabbrica.web.plan;

import fabbrica.core.estimate.Estimate;
import fabbrica.core.estimate.Expected;
import fabbrica.core.recipe.Printer;
import fabbrica.web.platform.Shop;
import fabbrica.web.platform.Standing;
import fabbrica.web.stores.Lessons;
import java.util.Optional;
import org.springframework.stereotype.Component;

/** What is to be expected of plates: what the shop works out, and what runs of their printers have taught by now. */
@Component
class Expectations {

    private final Shop shop;
    private final Lessons lessons;

    Expectations(Shop shop, Lessons lessons) {
        this.shop = shop;
        this.lessons = lessons;
    }

    /** Where it stands; starts working on it when nobody has asked before. */
    Standing<Expected> ask(Shop.Request request) {
        return of(shop.ask(request), request.printer());
    }

    /** The same for a place on a page: what was asked for there before is no longer wanted. */
    Standing<Expected> ask(Shop.Request request, String place) {
        return of(shop.ask(request, place), request.printer());
    }

    /** Worked out at once on the calling thread unless it is known. */
    Expected await(Shop.Request request) {
        return of(shop.await(request), request.printer());
    }

    /** When it is known; nothing is started. */
    Optional<Expected> known(Shop.Request request) {
        return shop.known(request).map(estimate -> of(estimate, request.printer()));
    }

    /** Of what was worked out elsewhere. */
    Expected of(Estimate estimate, Printer printer) {
        return new Expected(estimate, lessons.calibration(printer.id()));
    }

    private Standing<Expected> of(Standing<Estimate> standing, Printer printer) {
        return standing.map(estimate -> of(estimate, printer));
    }
}
