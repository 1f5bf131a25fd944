package fabbrica.web.privacy;

import fabbrica.web.account.Members;
import fabbrica.web.platform.Attachment;
import fabbrica.web.platform.FormValues;
import fabbrica.web.platform.Seen;
import jakarta.servlet.http.HttpServletResponse;
import java.io.IOException;
import java.security.Principal;
import org.springframework.stereotype.Controller;
import org.springframework.util.MultiValueMap;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.servlet.mvc.support.RedirectAttributes;

/** What people can have of what is kept of them, and members who are forgotten. */
@Controller
class PrivacyController {

    private final Export export;
    private final Forgetting forgetting;
    private final Members members;

    PrivacyController(Export export, Forgetting forgetting, Members members) {
        this.export = export;
        this.forgetting = forgetting;
        this.members = members;
    }

    @GetMapping("/own-data")
    void own(Principal who, HttpServletResponse response) throws IOException {
        send(export.ofAccount(who.getName()), "own-data", response);
    }

    @GetMapping("/members/{id}/data")
    void ofMember(@PathVariable long id, HttpServletResponse response) throws IOException {
        send(export.ofMember(members.member(id).orElseThrow()), "member-" + id, response);
    }

    @PostMapping("/members/{id}/forget")
    String forget(@PathVariable long id, @RequestParam MultiValueMap<String, String> values, Principal who, RedirectAttributes flash) {
        forgetting.forget(Seen.unchanged(members.member(id).orElseThrow(), new FormValues(values)), who.getName());
        flash.addFlashAttribute("told", "Forgotten. What was printed stays in the Ledger under “Former member " + id + "”.");
        return "redirect:/members";
    }

    private static void send(Export.Archive archive, String name, HttpServletResponse response) throws IOException {
        Attachment.head(response, "application/zip", name + ".zip");
        archive.write(response.getOutputStream());
    }
}
