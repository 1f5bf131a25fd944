package fabbrica.web.plan;

import fabbrica.core.estimate.Difference;
import fabbrica.core.mesh.model.Rotation;
import fabbrica.core.trade.TradeTable;
import fabbrica.core.trade.TradeTable.Row;
import fabbrica.core.units.OutOfRange;
import fabbrica.web.platform.FormValues;
import fabbrica.web.platform.Seen;
import fabbrica.web.ticket.Ticket;
import fabbrica.web.ticket.Tickets;
import jakarta.servlet.http.HttpServletResponse;
import java.security.Principal;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Controller;
import org.springframework.transaction.support.TransactionTemplate;
import org.springframework.ui.Model;
import org.springframework.util.MultiValueMap;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RequestParam;

/** The trade table of a ticket: what else could be done, what each way gains and loses, and the one to take. */
@Controller
@RequestMapping("/tickets/{id}/plans/{planId}/trade")
class TradeController {

    private final Trade trade;
    private final Tickets tickets;
    private final Plans plans;
    private final TransactionTemplate transaction;

    TradeController(Trade trade, Tickets tickets, Plans plans, TransactionTemplate transaction) {
        this.trade = trade;
        this.tickets = tickets;
        this.plans = plans;
        this.transaction = transaction;
    }

    /**
     * A row as it is drawn, its bars in per cent of the widest.
     *
     * @param plan  stored for it, with everything to the last digit
     * @param picks why one would take it
     */
    record Line(Row row, Plan plan, double startAt, double length, double grams, boolean inTime, String picks) {

        /** Not before a nozzle is mounted that is not in the printer. */
        public boolean canBeTaken() {
            return row.way().setupS() == 0;
        }
    }

    /** What most people ask for, in their words, and the line that gives it; the plan itself need not be taken. */
    record Pick(String label, Line line, boolean planned) {
    }

    @GetMapping
    String table(@PathVariable long id, @PathVariable long planId, Model page) {
        return table(id, planId, false, page);
    }

    @PostMapping("/stop")
    String stop(@PathVariable long id, @PathVariable long planId, Model page) {
        trade.stop(tickets.ticket(id), plans.plan(planId));
        return table(id, planId, true, page);
    }

    /** Where the minutes between two ways went; empty until both are chosen. */
    record DifferencePage(@Nullable Row first, @Nullable Row second, List<Difference> differences) {
    }

    /** Where the minutes between two ways went. */
    @GetMapping("/difference")
    String difference(@PathVariable long id, @PathVariable long planId, @RequestParam String first, @RequestParam String second, Model page) {
        List<Row> rows = trade.standings(tickets.ticket(id), plans.plan(planId), true).table().rows();
        Optional<Row> one = row(rows, first), other = row(rows, second);
        page.addAttribute("page", new DifferencePage(one.orElse(null), other.orElse(null),
                one.isPresent() && other.isPresent() ? Difference.between(one.get().expected(), other.get().expected()) : List.of()));
        return "plan/trade :: difference";
    }

    /**
     * Takes a row: the ticket's page with the plan that was stored for it; a part that is to lie another way or get smaller is
     * changed.
     */
    @PostMapping("/use/{taken}")
    void use(@PathVariable long id, @PathVariable long taken, @RequestParam(defaultValue = "false") boolean turned,
             @RequestParam(defaultValue = "1") double scale, @RequestParam MultiValueMap<String, String> values, Principal who,
             HttpServletResponse response) {
        Ticket ticket = Seen.unchanged(tickets.ticket(id), new FormValues(values));
        Plan plan = plans.plan(taken);
        Rotation best = turned ? trade.bestPose(ticket) : ticket.rotation();
        transaction.executeWithoutResult(status -> {
            if (turned) {
                tickets.turn(ticket, best, who.getName());
            }
            if (scale != 1) {
                tickets.resize(tickets.ticket(id), ticket.unit(), ticket.scalePercent() * OutOfRange.check("Scale", scale, 0.01, 1, ""), who.getName());
            }
        });
        response.setHeader("HX-Redirect", "/tickets/%d?plan=%d#preview".formatted(id, plan.id()));
    }

    private String table(long id, long planId, boolean stopped, Model page) {
        Ticket ticket = tickets.ticket(id);
        Plan plan = plans.plan(planId);
        Trade.Standings standings = trade.standings(ticket, plan, stopped);
        page.addAttribute("page", new WaysPage(ticket, plan, standings.waiting(), standings.done(),
                standings.table().rows().isEmpty() ? null : scale(standings.table(), plan, ticket.request().neededBy())));
        return "plan/trade :: ways";
    }

    /**
     * Other ways of printing the same.
     *
     * @param waiting ways that are still being worked out
     * @param done    share of all work, 0 to 1
     * @param scale   null until the plan itself is worked out
     */
    record WaysPage(Ticket ticket, Plan plan, int waiting, double done, @Nullable Scale scale) {
    }

    /**
     * The rows on one scale of time.
     *
     * @param neededAt where on it, in per cent; null when that is nowhere
     * @param lines    the plan first
     */
    record Scale(Instant from, Instant to, @Nullable Double neededAt, List<Pick> picks, List<Line> lines) {
    }

    private Scale scale(TradeTable table, Plan plan, @Nullable Instant neededBy) {
        Instant from = table.rows().stream().map(Row::start).min(Comparator.naturalOrder()).orElseThrow();
        Instant last = table.rows().stream().map(Row::ready).max(Comparator.naturalOrder()).orElseThrow();
        Instant to = neededBy != null && neededBy.isAfter(last) && seconds(from, neededBy) < 2 * seconds(from, last)
                ? neededBy : last;
        double span = Math.max(1, seconds(from, to));
        double grams = table.rows().stream().mapToDouble(row -> row.expected().grams()).max().orElse(1);
        Map<String, Row> picks = picks(table, neededBy);
        List<Line> lines = new ArrayList<>();
        List<Plan> kept = plans.keep(table.rows().stream().map(row -> plan.entry().with(row.way().recipe(), row.way().printer().id())).toList());
        for (int i = 0; i < kept.size(); i++) {
            Row row = table.rows().get(i);
            lines.add(new Line(row, kept.get(i), 100 * seconds(from, row.start()) / span, 100 * seconds(row.start(), row.ready()) / span,
                    100 * row.expected().grams() / grams, neededBy == null || row.inTime(neededBy),
                    picks.keySet().stream().filter(pick -> picks.get(pick) == row).collect(Collectors.joining(", "))));
        }
        Double neededAt = neededBy == null || neededBy.isAfter(to) ? null : Double.valueOf(Math.max(0, 100 * seconds(from, neededBy) / span));
        List<Pick> picked = picks.entrySet().stream().map(pick -> {
            Line line = lines.get(table.rows().indexOf(pick.getValue()));
            return new Pick(pick.getKey(), line, line == lines.getFirst());
        }).toList();
        return new Scale(from, to, neededAt, picked, lines);
    }

    /** What most people ask for, in their words, and the row that gives it. */
    private static Map<String, Row> picks(TradeTable table, @Nullable Instant neededBy) {
        Map<String, Row> picks = new LinkedHashMap<>();
        table.fastestThatLooksRight().ifPresent(row -> picks.put("fastest that still looks right", row));
        table.leastPlastic().ifPresent(row -> picks.put("least plastic", row));
        if (neededBy != null) {
            table.finestReadyBy(neededBy).ifPresent(row -> picks.put("finest that is ready by then", row));
        }
        return picks;
    }

    private static double seconds(Instant from, Instant to) {
        return Duration.between(from, to).toMillis() / 1000.0;
    }

    private static Optional<Row> row(List<Row> rows, String change) {
        return rows.stream().filter(row -> row.way().change().equals(change)).findFirst();
    }
}
