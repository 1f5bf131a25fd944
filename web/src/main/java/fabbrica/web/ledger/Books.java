package fabbrica.web.ledger;

import fabbrica.core.ledger.Period;
import fabbrica.core.ledger.Use;
import fabbrica.core.units.OutOfRange;
import fabbrica.web.platform.FormValues;
import fabbrica.web.platform.Moments;
import fabbrica.web.stores.Inventory;
import fabbrica.web.stores.StockPrinter;
import java.time.YearMonth;
import java.time.ZoneId;
import java.time.format.DateTimeFormatter;
import java.time.format.DateTimeParseException;
import java.time.format.ResolverStyle;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.function.Consumer;
import java.util.stream.Collectors;
import org.springframework.stereotype.Service;

/** What the lab did in some months. */
@Service
class Books {

    /** Of four digits, so that the month before and the one after are there too. */
    private static final DateTimeFormatter MONTH = DateTimeFormatter.ofPattern("uuuu-MM", Locale.ROOT).withResolverStyle(ResolverStyle.STRICT);

    private final BooksRepository repository;
    private final Inventory inventory;
    private final Moments moments;

    Books(BooksRepository repository, Inventory inventory, Moments moments) {
        this.repository = repository;
        this.inventory = inventory;
        this.moments = moments;
    }

    /** The months that were asked for; when they cannot be read, or none were, so many up to this one. */
    Period period(FormValues form, int months) {
        Period usual = Period.upTo(YearMonth.from(moments.today()), months);
        return form.made(() -> {
            YearMonth to = month(form, "to", usual.to());
            return new Period(month(form, "from", form.text("to").isEmpty() ? usual.from() : to), to);
        }).orElse(usual);
    }

    private static YearMonth month(FormValues form, String name, YearMonth otherwise) {
        try {
            return form.text(name).isEmpty() ? otherwise : YearMonth.parse(form.text(name), MONTH);
        } catch (DateTimeParseException e) {
            throw new OutOfRange("“%s” is not a month such as 2026-11.".formatted(form.text(name)));
        }
    }

    /** Of each of some periods, read at once. */
    List<Use> of(List<Period> periods) {
        ZoneId zone = inventory.zone();
        Map<String, String> printers = printers();
        List<Use> uses = periods.stream().map(period -> new Use(period, zone, moments.now())).toList();
        Period all = Period.around(periods);
        repository.entries(all, zone, printers, booked -> uses.forEach(use -> use.add(booked.entry())));
        repository.runs(all, zone, printers, ran -> uses.forEach(use -> use.add(ran)));
        repository.handedOut(all, zone, ticket -> uses.forEach(use -> use.add(ticket)));
        return uses;
    }

    void each(Period period, Consumer<Booked> each) {
        repository.entries(period, inventory.zone(), printers(), each);
    }

    private Map<String, String> printers() {
        return inventory.printers().stream().collect(Collectors.toMap(StockPrinter::id, StockPrinter::name));
    }
}
