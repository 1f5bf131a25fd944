package fabbrica.web.learn;

import fabbrica.core.learn.Rate;
import fabbrica.core.learn.Reliability.Group;
import fabbrica.web.platform.Moments;
import java.time.Instant;
import java.util.Arrays;
import java.util.List;
import org.springframework.stereotype.Controller;
import org.springframework.ui.Model;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.RequestParam;

/** How reliably the lab prints. */
@Controller
class ReliabilityController {

    private static final double ROOM = 1.05;

    private final Reliabilities reliabilities;
    private final Moments moments;

    ReliabilityController(Reliabilities reliabilities, Moments moments) {
        this.reliabilities = reliabilities;
        this.moments = moments;
    }

    /** How far the report looks back. */
    enum Back {
        MONTHS_3("3 months", 3), YEAR("a year", 12), ALL("always", 0);

        private final String label;
        private final int months;

        Back(String label, int months) {
            this.label = label;
            this.months = months;
        }

        public String label() {
            return label;
        }

        public String code() {
            return label.replace(' ', '-');
        }
    }

    /** @param scale at which shares are drawn: the largest that any may really be */
    record ReliabilityPage(Reliabilities.Report report, Back back, List<Back> backs, double scale) {

        public String drawn(Group group) {
            return ReliabilityChart.of(group.rate(), scale);
        }

        /** Whether only the latest runs are drawn. */
        public boolean cut(Reliabilities.Watched watched) {
            return watched.runs() > ReliabilityChart.MOST;
        }

        public String drawn(Reliabilities.Watched watched) {
            return ReliabilityChart.of(watched.chart());
        }
    }

    @GetMapping("/ledger/reliability")
    String reliability(@RequestParam(defaultValue = "") String back, Model page) {
        Back far = Arrays.stream(Back.values()).filter(each -> each.code().equals(back)).findFirst().orElse(Back.YEAR);
        Instant from = far == Back.ALL ? Instant.EPOCH : moments.at(moments.today().minusMonths(far.months).atStartOfDay());
        Reliabilities.Report report = reliabilities.since(from);
        double scale = ROOM * report.told().stream().flatMap(told -> told.reliability().compared().stream()).map(Group::rate).mapToDouble(Rate::most).max().orElse(1);
        page.addAttribute("page", new ReliabilityPage(report, far, List.of(Back.values()), scale));
        return "learn/reliability";
    }
}
