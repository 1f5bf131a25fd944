package fabbrica.web.ledger;

import fabbrica.core.run.Defect;
import fabbrica.core.units.Spoken;
import fabbrica.web.floor.Run;
import fabbrica.web.floor.RunFilter;
import fabbrica.web.floor.RunSums;
import fabbrica.web.floor.Runs;
import fabbrica.web.floor.Took;
import fabbrica.web.platform.Attachment;
import fabbrica.web.platform.FormValues;
import fabbrica.web.platform.Moments;
import fabbrica.web.stores.Inventory;
import fabbrica.web.stores.StockPrinter;
import jakarta.servlet.http.HttpServletResponse;
import java.io.IOException;
import java.net.URLEncoder;
import java.nio.charset.StandardCharsets;
import java.time.Instant;
import java.time.LocalDate;
import java.time.format.DateTimeParseException;
import java.util.Arrays;
import java.util.List;
import java.util.Locale;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Controller;
import org.springframework.ui.Model;
import org.springframework.util.MultiValueMap;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.RequestParam;

/** The Ledger: every run with how it ended, filtered, summed up, and as CSV. */
@Controller
class LedgerController {

    private static final int PAGE = 100;

    private final Runs runs;
    private final Inventory inventory;
    private final Moments moments;

    LedgerController(Runs runs, Inventory inventory, Moments moments) {
        this.runs = runs;
        this.inventory = inventory;
        this.moments = moments;
    }

    /** Runs that match, a page of them, and what all of them come to. */
    record LedgerPage(List<Run> runs, @Nullable Long before, RunSums summary, List<StockPrinter> printers, String query) {
    }

    @GetMapping("/ledger")
    String ledger(@RequestParam MultiValueMap<String, String> values, @RequestParam(required = false) @Nullable Long before, Model page) {
        FormValues form = new FormValues(values);
        RunFilter filter = filter(form);
        List<Run> listed = runs.runs(filter, before, PAGE + 1);
        page.addAttribute("v", values.toSingleValueMap());
        page.addAttribute("problems", form.problems());
        page.addAttribute("page", new LedgerPage(listed.subList(0, Math.min(PAGE, listed.size())),
                listed.size() > PAGE ? listed.get(PAGE - 1).id() : null, runs.sums(filter), inventory.printers(),
                query(values)));
        return "ledger/ledger";
    }

    /** What was asked for, as it stands in an address; without the page. */
    static String query(MultiValueMap<String, String> values) {
        return values.entrySet().stream().filter(entry -> !entry.getKey().equals("before") && !entry.getValue().getFirst().isBlank())
                .map(entry -> entry.getKey() + "=" + URLEncoder.encode(entry.getValue().getFirst(), StandardCharsets.UTF_8))
                .collect(Collectors.joining("&"));
    }

    /** All runs that match, written as they are read. */
    @GetMapping("/ledger.csv")
    void csv(@RequestParam MultiValueMap<String, String> values, HttpServletResponse response) throws IOException {
        Attachment.head(response, "text/csv; charset=utf-8", "ledger.csv");
        Csv csv = new Csv(response.getWriter(), "run", "plate", "tickets", "model", "member", "printer", "spool", "started", "ended", "outcome",
                "copies", "failed_copies", "promised_min", "real_min", "promised_g", "real_g", "cost", "currency", "defects", "cause", "note",
                "worked_out_min", "worked_out_g", "learned_from_runs", "min_from", "g_from");
        runs.each(filter(new FormValues(values)), run -> csv.row(Long.toString(run.id()), Long.toString(run.plateId()),
                run.tickets().stream().map(String::valueOf).collect(Collectors.joining(" ")), run.what(), run.members(), run.printerName(), run.spoolName(), run.startedAt().toString(),
                run.endedAt() == null ? "" : run.endedAt().toString(), run.state().name().toLowerCase(), Integer.toString(run.copies()), Integer.toString(run.failedCopies()),
                Spoken.number(run.promisedS() / 60, 1), number(run.realMinutes()), Spoken.number(run.promisedG(), 1),
                number(run.realG()), run.cost() == null ? "" : run.cost().amount().toPlainString(),
                run.cost() == null ? "" : run.cost().currency().getCurrencyCode(),
                run.defects().stream().map(Defect::code).collect(Collectors.joining(" ")), run.cause(), run.note(),
                Spoken.number(run.rawS() / 60, 1), Spoken.number(run.rawG(), 1), Integer.toString(run.taughtBy()), source(run.minutesFrom()), source(run.gramsFrom())));
    }

    private RunFilter filter(FormValues form) {
        Run.State state = Arrays.stream(Run.State.values())
                .filter(s -> s.name().equalsIgnoreCase(form.text("outcome"))).findFirst().orElse(null);
        Instant to = day(form, "to", 1);
        return new RunFilter(form.text("printer"), state, day(form, "from", 0), to, form.text("words"));
    }

    private @Nullable Instant day(FormValues form, String name, int plusDays) {
        try {
            return form.text(name).isEmpty() ? null
                    : moments.at(LocalDate.parse(form.text(name)).plusDays(plusDays).atStartOfDay());
        } catch (DateTimeParseException e) {
            form.problem("“" + form.text(name) + "” is not a date; all days are shown.");
            return null;
        }
    }

    private static String source(Took.@Nullable Source source) {
        return source == null ? "" : source.name().toLowerCase(Locale.ROOT);
    }

    private static String number(@Nullable Double value) {
        return value == null ? "" : Spoken.number(value, 1);
    }
}
