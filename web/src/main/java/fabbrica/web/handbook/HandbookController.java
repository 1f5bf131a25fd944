package fabbrica.web.handbook;

import fabbrica.core.recipe.StartingPoint;
import fabbrica.core.run.Defect;
import org.springframework.stereotype.Controller;
import org.springframework.ui.Model;
import org.springframework.web.bind.annotation.GetMapping;

/** The Handbook: what goes wrong and what to try first, the starting points, and the cautions. */
@Controller
class HandbookController {

    @GetMapping("/handbook")
    String handbook(Model page) {
        page.addAttribute("defects", Defect.values());
        page.addAttribute("starts", StartingPoint.values());
        return "handbook/handbook";
    }
}
