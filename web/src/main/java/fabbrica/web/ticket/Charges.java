package fabbrica.web.ticket;

import fabbrica.core.estimate.Tariff;
import fabbrica.core.units.Money;
import fabbrica.web.platform.Outdated;
import fabbrica.web.platform.Refusal;
import fabbrica.web.platform.events.About;
import fabbrica.web.platform.events.Events;
import fabbrica.web.platform.events.Fact;
import java.time.Clock;
import java.time.Instant;
import java.util.List;
import java.util.Optional;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;

/** Prices of tickets: asked about, agreed to, worked out, paid. */
@Service
public class Charges {

    private final ChargeRepository repository;
    private final Tickets tickets;
    private final Events events;
    private final Clock clock;

    Charges(ChargeRepository repository, Tickets tickets, Events events, Clock clock) {
        this.repository = repository;
        this.tickets = tickets;
        this.events = events;
        this.clock = clock;
    }

    /** Writes down what a ticket costs, part by part, unless it is paid already. */
    @Transactional
    public void price(long ticket, Tariff.Quote quote) {
        repository.price(ticket, quote);
    }

    /** Asks the member whether a price is all right. */
    @Transactional
    public void ask(Ticket seen, Money price, String who) {
        requireUnchanged(seen);
        if (seen.state().isOver()) {
            throw new Refusal("Nothing more is to be done on this ticket.");
        }
        repository.ask(seen.id(), price);
        events.record(who, About.ticket(seen.id()), new Fact.PriceAsked(price.toString()));
    }

    /** Writes down that the member has said yes to what she was asked about. */
    @Transactional
    public void agree(Ticket seen, String who) {
        requireUnchanged(seen);
        Money asked = seen.charge().asked();
        if (asked == null) {
            throw new Refusal("Nobody has asked about a price.");
        }
        repository.agree(seen.id());
        events.record(who, About.ticket(seen.id()), new Fact.PriceAgreed(asked.toString()));
    }

    @Transactional
    public void pay(Ticket seen, String who) {
        requireUnchanged(seen);
        Money price = seen.charge().price();
        if (price == null || !seen.charge().isDue()) {
            throw new Refusal("There is nothing to pay on this ticket, or it is paid.");
        }
        repository.pay(seen.id(), clock.instant());
        events.record(who, About.ticket(seen.id()), new Fact.Paid(price.toString()));
    }

    /** What a ticket costs, part by part, once that is worked out. */
    public Optional<Tariff.Quote> quote(long ticket) {
        return repository.quote(ticket);
    }

    /** Tickets that are printed and not paid. */
    public List<Ticket> unpaid() {
        return tickets.tickets(repository.unpaid());
    }

    /** What is to be paid for what is printed, by currency. */
    public List<Money> due() {
        return repository.due();
    }

    /** What was paid from one moment until another, by currency. */
    public List<Money> paid(Instant from, Instant to) {
        return repository.paid(from, to);
    }

    private void requireUnchanged(Ticket seen) {
        if (!tickets.ticket(seen.id()).equals(seen)) {
            throw new Outdated();
        }
    }
}
