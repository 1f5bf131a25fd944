package fabbrica.web.ledger;

import fabbrica.core.estimate.Tariff;
import fabbrica.core.estimate.Tariff.Used;
import fabbrica.core.ledger.Entry;
import fabbrica.core.ledger.Period;
import fabbrica.core.ledger.Use;
import fabbrica.core.units.Spoken;
import fabbrica.web.account.Member;
import fabbrica.web.account.Members;
import fabbrica.web.plan.Usage;
import fabbrica.web.platform.Attachment;
import fabbrica.web.platform.FormValues;
import fabbrica.web.platform.Moments;
import fabbrica.web.stores.Inventory;
import fabbrica.web.ticket.TicketState;
import fabbrica.web.ticket.Tickets;
import jakarta.servlet.http.HttpServletResponse;
import java.io.IOException;
import java.time.YearMonth;
import java.util.Comparator;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Objects;
import java.util.stream.Stream;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Controller;
import org.springframework.ui.Model;
import org.springframework.util.MultiValueMap;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.RequestParam;

/** Who used the machines for what, and what it came to. */
@Controller
class UseController {

    private static final int MONTHS = 3;

    private final Books books;
    private final Inventory inventory;
    private final Moments moments;
    private final Members members;
    private final Tickets tickets;
    private final Usage usage;

    UseController(Books books, Inventory inventory, Moments moments, Members members, Tickets tickets, Usage usage) {
        this.books = books;
        this.inventory = inventory;
        this.moments = moments;
        this.members = members;
        this.tickets = tickets;
        this.usage = usage;
    }

    /** What a member has had free this month. @param all whether nothing is left */
    record Free(String member, Used used, boolean all) {
    }

    /** @param free empty where nothing is free, or nobody has had any */
    record LabUsePage(UsePage use, Tariff tariff, List<Free> free) {
    }

    @GetMapping("/ledger/use")
    String use(@RequestParam MultiValueMap<String, String> values, Model page) {
        FormValues form = new FormValues(values);
        Period period = books.period(form, MONTHS);
        Period month = Period.upTo(YearMonth.from(moments.today()), 1);
        List<Use> uses = books.of(period.contains(month.to()) ? List.of(period, month) : List.of(period));
        Use use = uses.getFirst();
        Tariff tariff = inventory.lab().tariff();
        page.addAttribute("problems", form.problems());
        page.addAttribute("page", new LabUsePage(new UsePage(use, use, inventory.printers().size()), tariff, uses.size() < 2 ? List.of() : free(tariff, uses.getLast())));
        return "ledger/use";
    }

    private List<Free> free(Tariff tariff, Use month) {
        if (tariff.freeGrams() == 0 && tariff.freeHours() == 0) {
            return List.of();
        }
        Stream<@Nullable Long> printing = tickets.inStates(TicketState.RUNNING).stream().map(ticket -> ticket.request().memberId());
        Map<Long, Member> served = members.members(Stream.concat(printing, month.members().largestFirst().stream().map(line -> line.of().id())).toList());
        return usage.usedThisMonth(List.copyOf(served.keySet())).entrySet().stream().map(entry -> free(Objects.requireNonNull(served.get(entry.getKey())), entry.getValue(), tariff))
                .sorted(Comparator.comparingDouble((Free free) -> free.used().grams()).reversed()).toList();
    }

    private static Free free(Member member, Used used, Tariff tariff) {
        return new Free(member.name(), used, tariff.freeGrams() <= used.grams() && tariff.freeHours() <= used.hours());
    }

    /** Each copy of each run, written as they are read. */
    @GetMapping("/ledger/use.csv")
    void csv(@RequestParam MultiValueMap<String, String> values, HttpServletResponse response) throws IOException {
        Period period = books.period(new FormValues(values), MONTHS);
        Attachment.head(response, "text/csv; charset=utf-8", "use-%s-%s.csv".formatted(period.from(), period.to()));
        Csv csv = new Csv(response.getWriter(), "run", "ticket", "started", "printer", "member", "class", "course", "purpose", "ended", "min", "g", "supports_g", "purged_g", "cost", "currency");
        books.each(period, booked -> {
            Entry entry = booked.entry();
            csv.row(Long.toString(booked.run()), Long.toString(booked.ticket()), booked.startedAt().toString(), booked.printer(), entry.member().name(), entry.memberClass(), entry.course(),
                    entry.purpose(), entry.ending().name().toLowerCase(Locale.ROOT), Spoken.number(entry.seconds() / 60, 1), Spoken.number(entry.grams(), 2),
                    Spoken.number(entry.grams() * entry.supported(), 2), Spoken.number(entry.grams() * entry.purged(), 2), entry.cost().amount().toPlainString(),
                    entry.cost().currency().getCurrencyCode());
        });
    }
}
