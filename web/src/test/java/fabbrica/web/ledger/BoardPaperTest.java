package fabbrica.web.ledger;

import static org.assertj.core.api.Assertions.assertThat;

import fabbrica.core.ledger.Entry;
import fabbrica.core.ledger.Entry.Ending;
import fabbrica.core.ledger.Entry.Who;
import fabbrica.core.ledger.HandedOut;
import fabbrica.core.ledger.Period;
import fabbrica.core.ledger.Ran;
import fabbrica.core.ledger.Ran.Within;
import fabbrica.core.ledger.Use;
import fabbrica.core.units.Money;
import fabbrica.web.DemoLabTest;
import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.time.Duration;
import java.time.Instant;
import java.time.LocalDate;
import java.time.YearMonth;
import java.time.ZoneId;
import java.util.Currency;
import java.util.List;
import org.apache.pdfbox.Loader;
import org.apache.pdfbox.pdmodel.PDDocument;
import org.apache.pdfbox.text.PDFTextStripper;
import org.junit.jupiter.api.Test;
import org.springframework.beans.factory.annotation.Autowired;

@DemoLabTest
class BoardPaperTest {

    private static final List<String> PURPOSES = List.of("", "Display", "Everyday use", "Load-bearing", "For a small child", "Prototype");

    @Autowired
    private BoardPaper paper;

    /** Of many machines, classes and courses, with all there is to say of each of twelve months. */
    private static Use busy() {
        ZoneId zone = ZoneId.of("UTC");
        Period year = Period.upTo(YearMonth.of(2025, 12), 12);
        Use use = new Use(year, zone, year.end(zone));
        Money cost = Money.ofCoins(123_456, Currency.getInstance("EUR"));
        for (YearMonth month : year.each()) {
            Instant at = month.atDay(3).atStartOfDay(zone).toInstant();
            for (int i = 0; i < 60; i++) {
                use.add(new Entry(month, new Who(1 + i, "Member " + i), "Class of the year %d in the upper school".formatted(i % 20), "Course no. %d on Thursday evenings".formatted(i % 30),
                        PURPOSES.get(i % PURPOSES.size()), Ending.values()[i % 3], 5000, 0.1, 0.02, 36_000, cost));
                use.add(new Ran("Machine no. %d in the second hall".formatted(i % 40), month, at, 36_000, i % 9 == 0, Within.values()[i % 4]));
                use.add(new HandedOut(month, at, at.plus(Duration.ofDays(2)), at.plus(Duration.ofDays(3 + i % 9)), at.plus(Duration.ofDays(3)), at.plus(Duration.ofDays(1 + i % 3))));
            }
        }
        return use;
    }

    @Test
    void however_much_there_is_to_say_it_is_two_pages() throws IOException {
        Use use = busy();
        UsePage page = new UsePage(use, use, 40);
        Money money = Money.ofCoins(9_876_543, Currency.getInstance("EUR"));
        ByteArrayOutputStream pdf = new ByteArrayOutputStream();
        paper.write(new BoardPage("Workshop of the Three Villages", LocalDate.of(2026, 1, 3), page, page, List.of(money), List.of(money), List.of(money)), pdf);
        try (PDDocument report = Loader.loadPDF(pdf.toByteArray())) {
            assertThat(report.getNumberOfPages()).isEqualTo(2);
            assertThat(new PDFTextStripper().getText(report)).contains("Workshop of the Three Villages", "January to December 2025", "Dec 2025", "In prints that were stopped", "2 of 2");
        }
    }

    @Test
    void of_a_lab_in_which_nothing_was_printed_it_says_so() throws IOException {
        Period month = Period.upTo(YearMonth.of(2025, 12), 1);
        UsePage nothing = new UsePage(new Use(month, ZoneId.of("UTC"), Instant.EPOCH), new Use(month, ZoneId.of("UTC"), Instant.EPOCH), 0);
        ByteArrayOutputStream pdf = new ByteArrayOutputStream();
        paper.write(new BoardPage("Wörkshop Ωμέγα", LocalDate.of(2026, 1, 3), nothing, nothing, List.of(), List.of(), List.of()), pdf);
        try (PDDocument report = Loader.loadPDF(pdf.toByteArray())) {
            assertThat(new PDFTextStripper().getText(report)).contains("Wörkshop Ωμέγα", "Nothing was printed in December 2025.", "Members paid nothing");
        }
    }
}
