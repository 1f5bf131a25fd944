package fabbrica.web.plan;

import fabbrica.core.estimate.Expected;
import fabbrica.core.estimate.MachineCost;
import fabbrica.core.estimate.Phase;
import fabbrica.core.estimate.Tariff;
import fabbrica.core.estimate.Tariff.Load;
import fabbrica.core.judge.Obstacle;
import fabbrica.core.units.Money;
import fabbrica.web.stores.Inventory;
import fabbrica.web.stores.Spools;
import fabbrica.web.stores.StockPrinter;
import fabbrica.web.stores.StockSpool;
import fabbrica.web.ticket.Ticket;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Objects;
import java.util.Optional;
import java.util.stream.IntStream;
import org.springframework.stereotype.Component;

/** What a ticket costs its member by the tariff of the house: the one price that all pages tell. */
@Component
class Prices {

    private final Inventory inventory;
    private final Spools spools;
    private final Usage usage;

    Prices(Inventory inventory, Spools spools, Usage usage) {
        this.inventory = inventory;
        this.spools = spools;
        this.usage = usage;
    }

    /** Of plates that would be printed for one ticket alone. */
    Tariff.Quote of(Judging.Bench bench, Ticket ticket, List<Expected> plates, double layerHeightMm, StockSpool spool, StockPrinter printer) {
        double failures = usage.failureShare(printer.id());
        return quote(bench, ticket, plates.stream().map(plate -> Load.of(plate, layerHeightMm, spool.spool(), printer.cost(), failures)).toList());
    }

    /**
     * Of plates as they were promised, the ticket's share of each; as many copies as are wanted are counted, those that came first:
     * what is printed again is not paid again.
     *
     * @return nothing as long as no copy of the ticket was promised
     */
    Optional<Tariff.Quote> ofPromised(Judging.Bench bench, Ticket ticket, List<LaidPlate> plates) {
        List<Load> loads = new ArrayList<>();
        int left = ticket.request().quantity();
        for (LaidPlate plate : plates.stream().sorted(Comparator.comparing(LaidPlate::id)).toList()) {
            Promise promise = plate.promise();
            List<Integer> own = IntStream.range(0, plate.copies().size()).filter(i -> plate.copies().get(i).ticketId() == ticket.id()).limit(left).boxed().toList();
            if (promise != null && !own.isEmpty() && plate.plan().spoolId() != null) {
                left -= own.size();
                loads.add(share(plate, promise, own));
            }
        }
        return loads.isEmpty() ? Optional.empty() : Optional.of(quote(bench, ticket, loads));
    }

    private Load share(LaidPlate plate, Promise promise, List<Integer> own) {
        MachineCost machine = inventory.printer(plate.plan().printerId()).map(StockPrinter::cost).orElse(MachineCost.USUAL);
        double plastic = own.stream().mapToDouble(i -> promise.portions().plastic().get(i)).sum();
        double time = own.stream().mapToDouble(i -> promise.portions().seconds().get(i)).sum();
        double prints = own.size() / (double) plate.copies().size();
        boolean supported = promise.phases().getOrDefault(Phase.SUPPORT, 0.0) > 0;
        return new Load(promise.grams() * plastic, promise.totalS() * time, machine.kwh(promise.prepareS(), promise.totalS() - promise.prepareS()) * time, prints,
                supported ? prints : 0, plate.plan().recipe().layerHeightMm(), spools.spool(Objects.requireNonNull(plate.plan().spoolId())).orElseThrow().spool(),
                machine, usage.failureShare(plate.plan().printerId()));
    }

    private Tariff.Quote quote(Judging.Bench bench, Ticket ticket, List<Load> loads) {
        return inventory.lab().tariff().quote(loads, bench.used(ticket), bench.memberClass(ticket));
    }

    /** What stands in the way as long as the member has not said yes to a price that is asked about; nothing when she need not. */
    Optional<Obstacle> question(Ticket ticket, Money price) {
        Tariff tariff = inventory.lab().tariff();
        return !tariff.asksAbout(price, ticket.charge().agreed()) ? Optional.empty() : Optional.of(new Obstacle.Stops(Obstacle.Cause.PRICE,
                "It costs %s; above %s its member has to say yes first.".formatted(price, Money.of(tariff.askAbove(), price.currency())),
                "Ask, or take a cheaper way of printing it."));
    }
}
