package fabbrica.web.floor;

import fabbrica.core.run.Remedy;
import fabbrica.web.platform.FormValues;
import fabbrica.web.platform.Refusal;
import fabbrica.web.platform.Seen;
import java.security.Principal;
import java.util.Arrays;
import java.util.List;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Controller;
import org.springframework.ui.Model;
import org.springframework.util.MultiValueMap;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.servlet.mvc.support.RedirectAttributes;

/** Why a run went wrong, all tries at it side by side, and the next one. */
@Controller
@RequestMapping("/floor/runs/{id}")
class DiagnosisController {

    private static final int MOST = 3;

    private final Runs runs;
    private final Diagnosing diagnosing;

    DiagnosisController(Runs runs, Diagnosing diagnosing) {
        this.runs = runs;
        this.diagnosing = diagnosing;
    }

    /**
     * @param waiting the plate that waits to print it again; null when none does
     * @param thought null of a run with which nothing is wrong
     * @param again   whether something of it is to be printed again
     */
    record DiagnosisPage(Run run, List<Tried> tries, @Nullable Long waiting, Diagnosing.@Nullable Thought thought, boolean again, int most) {
    }

    @GetMapping("/diagnosis")
    String diagnosis(@PathVariable long id, Model page) {
        Run run = runs.run(id);
        List<Tried> tries = diagnosing.tries(id);
        page.addAttribute("page", new DiagnosisPage(run, tries, diagnosing.waiting(id).orElse(null), run.failedCopies() == 0 && run.signs().isEmpty() ? null : diagnosing.of(run, tries),
                runs.mayBeTriedAgain(run, runs.copies(List.of(id))), MOST));
        return "floor/diagnosis :: diagnosis";
    }

    /** Lays what failed on a plate anew, with what was proposed. */
    @PostMapping("/retry")
    String retry(@PathVariable long id, @RequestParam MultiValueMap<String, String> values, Principal who, RedirectAttributes flash) {
        FormValues form = new FormValues(values);
        Run run = Seen.unchanged(runs.run(id), form);
        Remedy remedy = Arrays.stream(Remedy.values()).filter(each -> each.name().equals(form.text("remedy"))).findFirst().orElseThrow(() -> new Refusal("Choose what is to be changed."));
        long plate = diagnosing.retry(run, remedy, who.getName());
        flash.addFlashAttribute("told", "What failed is queued again with one change: %s.".formatted(remedy.label()));
        return "redirect:/plates/" + plate;
    }
}
