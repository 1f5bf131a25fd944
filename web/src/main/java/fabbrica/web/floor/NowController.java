package fabbrica.web.floor;

import org.springframework.stereotype.Controller;
import org.springframework.ui.Model;
import org.springframework.web.bind.annotation.GetMapping;

/** What is to be done now by whoever is on duty. */
@Controller
class NowController {

    private final Round round;

    NowController(Round round) {
        this.round = round;
    }

    @GetMapping("/now")
    String now(Model page) {
        page.addAttribute("page", round.now());
        return "floor/now";
    }
}
