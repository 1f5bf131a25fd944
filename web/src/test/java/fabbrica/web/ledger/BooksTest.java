package fabbrica.web.ledger;

import static fabbrica.web.Steps.open;
import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;
import static org.hamcrest.Matchers.containsString;
import static org.hamcrest.Matchers.not;
import static org.springframework.test.web.servlet.result.MockMvcResultMatchers.content;
import static org.springframework.test.web.servlet.result.MockMvcResultMatchers.header;
import static org.springframework.test.web.servlet.result.MockMvcResultMatchers.status;

import fabbrica.core.ledger.Period;
import fabbrica.core.ledger.Sum;
import fabbrica.core.ledger.Use;
import fabbrica.core.mesh.model.Shapes;
import fabbrica.web.DemoLabTest;
import fabbrica.web.Steps;
import fabbrica.web.floor.RunEnd.Outcome;
import fabbrica.web.floor.RunFilter;
import fabbrica.web.floor.RunSums;
import fabbrica.web.floor.Runs;
import fabbrica.web.platform.LabZone;
import java.time.Instant;
import java.time.YearMonth;
import java.util.List;
import java.util.concurrent.atomic.AtomicInteger;
import org.apache.pdfbox.Loader;
import org.apache.pdfbox.pdmodel.PDDocument;
import org.apache.pdfbox.text.PDFTextStripper;
import org.junit.jupiter.api.Test;
import org.springframework.beans.factory.annotation.Autowired;
import org.springframework.test.web.servlet.MockMvc;

@DemoLabTest
class BooksTest {

    @Autowired
    private MockMvc mvc;
    @Autowired
    private Steps steps;
    @Autowired
    private Books books;
    @Autowired
    private Runs runs;
    @Autowired
    private LabZone lab;

    private Period months(int months) {
        return Period.upTo(YearMonth.from(Instant.now().atZone(lab.zone())), months);
    }

    @Test
    void copies_of_all_runs_come_to_what_the_runs_come_to() {
        Period period = months(3);
        RunSums ran = runs.sums(new RunFilter("", null, period.start(lab.zone()), period.end(lab.zone()), ""));
        Use use = books.of(List.of(period)).getFirst();
        Sum all = use.all();
        assertThat(all.grams()).isCloseTo(ran.grams(), within(0.01));
        assertThat(all.hours()).isCloseTo(ran.hours(), within(0.01));
        assertThat(all.cost()).isEqualTo(ran.cost());
        assertThat(use.plastic().all()).isCloseTo(all.grams(), within(0.001));
        assertThat(use.machines().stream().mapToLong(Use.Machine::runs).sum()).isEqualTo(ran.ended());
        AtomicInteger copies = new AtomicInteger();
        books.each(period, booked -> copies.incrementAndGet());
        assertThat(copies.get()).isGreaterThanOrEqualTo((int) all.copies());
    }

    @Test
    void what_is_printed_now_is_in_this_month_and_in_no_other() {
        Period month = months(1);
        List<Use> before = books.of(List.of(month, month.before()));
        String printer = steps.printer();
        steps.end(steps.started(steps.queued(Shapes.box(20, 20, 6), 2, printer, steps.spool("pla", 500))), Outcome.FAILED, 30, 4);
        List<Use> after = books.of(List.of(month, month.before()));
        assertThat(after.get(0).all().failed()).isEqualTo(before.get(0).all().failed() + 2);
        assertThat(after.get(0).plastic().failed()).isCloseTo(before.get(0).plastic().failed() + 4, within(1e-6));
        assertThat(after.get(0).all().hours()).isCloseTo(before.get(0).all().hours() + 0.5, within(1e-6));
        assertThat(after.get(1).all()).isEqualTo(before.get(1).all());
    }

    @Test
    void the_page_tells_months_members_and_what_is_free() throws Exception {
        mvc.perform(open("/ledger/use")).andExpect(status().isOk()).andExpect(content().string(containsString("Everyday use")))
                .andExpect(content().string(containsString("June Abara"))).andExpect(content().string(containsString("Free this month")))
                .andExpect(content().string(containsString("<svg")));
        mvc.perform(open("/ledger/use?from=2001-01&to=2001-02")).andExpect(content().string(containsString("Nothing was printed in that time")));
    }

    @Test
    void months_that_are_none_are_said_and_the_usual_ones_shown() throws Exception {
        mvc.perform(open("/ledger/use?from=soon")).andExpect(status().isOk()).andExpect(content().string(containsString("“soon” is not a month such as 2026-11.")))
                .andExpect(content().string(containsString("June Abara")));
        mvc.perform(open("/ledger/use?to=%2B999999999-12")).andExpect(status().isOk()).andExpect(content().string(containsString("is not a month")));
        mvc.perform(open("/ledger/board?from=0000-01&to=0000-01")).andExpect(status().isOk());
        mvc.perform(open("/ledger/board?from=9999-12&to=9999-12")).andExpect(content().string(containsString("Nothing was printed in December 9999.")));
        mvc.perform(open("/ledger/board?from=2026-05&to=2026-02")).andExpect(content().string(containsString("The last month comes before the first.")));
    }

    @Test
    void each_copy_is_in_the_csv_with_where_its_plastic_went() throws Exception {
        mvc.perform(open("/ledger/use.csv")).andExpect(header().string("Content-Disposition", containsString("use-")))
                .andExpect(content().string(containsString("run,ticket,started,printer,member,class,course,purpose,ended,min,g,supports_g,purged_g,cost,currency")))
                .andExpect(content().string(containsString(",good,")));
    }

    @Test
    void of_many_years_the_report_shows_the_last_twelve_months() throws Exception {
        byte[] pdf = mvc.perform(open("/ledger/board.pdf?from=2001-01")).andReturn().getResponse().getContentAsByteArray();
        try (PDDocument paper = Loader.loadPDF(pdf)) {
            assertThat(paper.getNumberOfPages()).isEqualTo(2);
        }
    }

    @Test
    void the_report_names_nobody_and_is_two_pages_of_paper() throws Exception {
        mvc.perform(open("/ledger/board")).andExpect(status().isOk()).andExpect(content().string(containsString("What the printers did in")))
                .andExpect(content().string(not(containsString("June Abara"))));
        byte[] pdf = mvc.perform(open("/ledger/board.pdf")).andExpect(content().contentType("application/pdf")).andReturn().getResponse().getContentAsByteArray();
        try (PDDocument paper = Loader.loadPDF(pdf)) {
            assertThat(paper.getNumberOfPages()).isEqualTo(2);
            String text = new PDFTextStripper().getText(paper);
            assertThat(text).contains("Harbour Street Workshop", "What the printers did in", "Where the plastic went", "In prints that failed", "Door bench", "1 of 2")
                    .doesNotContain("June Abara");
            assertThat(paper.getDocumentInformation().getTitle()).contains("Harbour Street Workshop");
        }
    }
}
