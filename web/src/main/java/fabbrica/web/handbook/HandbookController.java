package fabbrica.web.handbook;

import fabbrica.core.recipe.StartingPoint;
import fabbrica.core.run.Cause;
import fabbrica.core.run.Defect;
import fabbrica.core.run.Remedy;
import java.util.Arrays;
import java.util.List;
import org.springframework.stereotype.Controller;
import org.springframework.ui.Model;
import org.springframework.web.bind.annotation.GetMapping;

/** The Handbook: what goes wrong and what to try first, the starting points, and the cautions. */
@Controller
class HandbookController {

    /** @param first what helps best against each of its usual causes, the most usual first */
    record Row(Defect sign, List<Remedy> first) {

        static Row of(Defect sign) {
            return new Row(sign, Cause.of(sign).stream().map(cause -> cause.remedies().getFirst()).distinct().toList());
        }
    }

    record HandbookPage(List<Row> defects, List<StartingPoint> starts) {
    }

    @GetMapping("/handbook")
    String handbook(Model page) {
        page.addAttribute("page", new HandbookPage(Arrays.stream(Defect.values()).map(Row::of).toList(), List.of(StartingPoint.values())));
        return "handbook/handbook";
    }
}
