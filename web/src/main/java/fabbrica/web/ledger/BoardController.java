package fabbrica.web.ledger;

import fabbrica.core.ledger.Period;
import fabbrica.core.ledger.Use;
import fabbrica.core.units.Money;
import fabbrica.web.platform.Attachment;
import fabbrica.web.platform.FormValues;
import fabbrica.web.platform.Moments;
import fabbrica.web.stores.Inventory;
import fabbrica.web.stores.Lab;
import fabbrica.web.ticket.Charges;
import jakarta.servlet.http.HttpServletResponse;
import java.io.IOException;
import java.time.ZoneId;
import java.util.List;
import org.springframework.stereotype.Controller;
import org.springframework.ui.Model;
import org.springframework.util.MultiValueMap;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.RequestParam;

/** The report for whoever funds the lab, two pages: in the browser, from there on paper, and as PDF. */
@Controller
class BoardController {

    private static final int YEAR = 12;

    private final Books books;
    private final Charges charges;
    private final Inventory inventory;
    private final Moments moments;
    private final BoardPaper paper;

    BoardController(Books books, Charges charges, Inventory inventory, Moments moments, BoardPaper paper) {
        this.books = books;
        this.charges = charges;
        this.inventory = inventory;
        this.moments = moments;
        this.paper = paper;
    }

    @GetMapping("/ledger/board")
    String board(@RequestParam MultiValueMap<String, String> values, Model page) {
        FormValues form = new FormValues(values);
        page.addAttribute("page", report(form));
        page.addAttribute("problems", form.problems());
        return "ledger/board";
    }

    @GetMapping("/ledger/board.pdf")
    void pdf(@RequestParam MultiValueMap<String, String> values, HttpServletResponse response) throws IOException {
        BoardPage report = report(new FormValues(values));
        Period period = report.use().use().period();
        Attachment.head(response, "application/pdf", "report-%s-%s.pdf".formatted(period.from(), period.to()));
        paper.write(report, response.getOutputStream());
    }

    private BoardPage report(FormValues form) {
        Period period = books.period(form, 1), before = period.before();
        List<Use> uses = books.of(List.of(period, before, Period.upTo(period.to(), YEAR)));
        int machines = inventory.printers().size();
        Lab lab = inventory.lab();
        ZoneId zone = inventory.zone();
        return new BoardPage(lab.name(), moments.today(), new UsePage(uses.get(0), uses.get(2), machines), new UsePage(uses.get(1), uses.get(2), machines), paid(period, zone),
                paid(before, zone), charges.due());
    }

    private List<Money> paid(Period period, ZoneId zone) {
        return charges.paid(period.start(zone), period.end(zone));
    }
}
