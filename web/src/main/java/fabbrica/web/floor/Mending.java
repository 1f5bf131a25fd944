package fabbrica.web.floor;

import fabbrica.web.platform.events.Fact;
import fabbrica.web.platform.events.Happened;
import fabbrica.web.stores.Inventory;
import fabbrica.web.stores.StockPrinter;
import java.util.Optional;
import org.jspecify.annotations.Nullable;
import org.springframework.context.annotation.Lazy;
import org.springframework.stereotype.Component;
import org.springframework.transaction.event.TransactionalEventListener;

/** What upsets a floor plan: a plan that mends it is looked for as soon as it has happened. */
@Component
@Lazy(false)
class Mending {

    private final Drafting drafting;
    private final Inventory inventory;

    Mending(Drafting drafting, Inventory inventory) {
        this.drafting = drafting;
        this.inventory = inventory;
    }

    @TransactionalEventListener
    void mend(Happened happened) {
        upset(happened).ifPresent(drafting::mend);
    }

    /** What happened, as far as it may make somebody's print late. */
    private Optional<String> upset(Happened happened) {
        return switch (happened.fact()) {
            case Fact.PutOutOfOrder down -> Optional.of("%s is out of order".formatted(printer(happened.about().printer())));
            case Fact.FirstPrintWanted wanted -> Optional.of("the first print of %s is to be checked".formatted(printer(happened.about().printer())));
            case Fact.RunEnded ended when ended.failed() > 0 -> Optional.of("a print failed on %s".formatted(printer(happened.about().printer())));
            case Fact.RunDelayed delayed -> Optional.of("%s takes longer than promised".formatted(printer(happened.about().printer())));
            case Fact.MachineDone done when !done.whole() -> Optional.of("%s broke off".formatted(printer(happened.about().printer())));
            case Fact.NeededBy needed -> Optional.of("ticket no. %d is needed at another time".formatted(happened.about().ticket()));
            case Fact.Queued queued -> Optional.of("ticket no. %d waits for its printer now".formatted(happened.about().ticket()));
            case Fact.Changed(Fact.Thing thing, String name) when thing == Fact.Thing.KEYHOLDER -> Optional.of("somebody with a key is there at other hours");
            case Fact.Removed(Fact.Thing thing, String name) when thing == Fact.Thing.KEYHOLDER -> Optional.of("somebody no longer has a key");
            case Fact.Changed(Fact.Thing thing, String name) when thing == Fact.Thing.HOURS -> Optional.of("the lab is open at other hours");
            default -> Optional.empty();
        };
    }

    private String printer(@Nullable String id) {
        return Optional.ofNullable(id).flatMap(inventory::printer).map(StockPrinter::name).orElse("a printer");
    }
}
