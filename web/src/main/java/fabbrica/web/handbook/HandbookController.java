package fabbrica.web.handbook;

import fabbrica.core.recipe.StartingPoint;
import fabbrica.core.run.Defect;
import java.util.List;
import org.springframework.stereotype.Controller;
import org.springframework.ui.Model;
import org.springframework.web.bind.annotation.GetMapping;

/** The Handbook: what goes wrong and what to try first, the starting points, and the cautions. */
@Controller
class HandbookController {

    record HandbookPage(List<Defect> defects, List<StartingPoint> starts) {
    }

    @GetMapping("/handbook")
    String handbook(Model page) {
        page.addAttribute("page", new HandbookPage(List.of(Defect.values()), List.of(StartingPoint.values())));
        return "handbook/handbook";
    }
}
