package fabbrica.web.account;

import fabbrica.web.platform.Refusal;
import fabbrica.web.platform.SignInGuard;
import jakarta.servlet.http.HttpServletRequest;
import jakarta.servlet.http.HttpServletResponse;
import jakarta.servlet.http.HttpSession;
import java.security.Principal;
import java.time.Duration;
import java.util.List;
import org.springframework.stereotype.Controller;
import org.springframework.ui.Model;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.servlet.mvc.support.RedirectAttributes;

/** Passwords set anew, and accounts that are reset, closed and opened again. */
@Controller
class PasswordController {

    private static final String ACCOUNTS = "redirect:/accounts";

    private final Accounts accounts;
    private final SignInGuard guard;

    PasswordController(Accounts accounts, SignInGuard guard) {
        this.accounts = accounts;
        this.guard = guard;
    }

    @GetMapping("/password")
    String own() {
        return "account/password";
    }

    @PostMapping("/password")
    String change(@RequestParam String present, @RequestParam String next, Principal who, HttpSession session, Model page,
                  RedirectAttributes flash) {
        try {
            accounts.changePassword(who.getName(), present, next, session.getId());
            flash.addFlashAttribute("told", "Your password is changed; wherever else you were signed in, you are signed out.");
            return "redirect:/password";
        } catch (Refusal refusal) {
            page.addAttribute("problems", List.of(refusal.getMessage()));
            return "account/password";
        }
    }

    @GetMapping("/sign-in/code")
    String code() {
        return "account/code";
    }

    @PostMapping("/sign-in/code")
    String set(@RequestParam String username, @RequestParam String code, @RequestParam String next, HttpServletRequest request,
               HttpServletResponse response, Model page) {
        page.addAttribute("username", username);
        Duration wait = guard.toWait(request, username);
        if (wait.isPositive()) {
            page.addAttribute("problems", List.of("Too many tries. Wait %d seconds.".formatted(wait.toSeconds() + 1)));
            return "account/code";
        }
        try {
            accounts.setPassword(username, code, next);
            guard.succeeded(request, response, username);
            return "redirect:/sign-in?set";
        } catch (Refusal refusal) {
            guard.failed(request, username);
            page.addAttribute("problems", List.of(refusal.getMessage()));
            return "account/code";
        }
    }

    @GetMapping("/accounts")
    String list(Model page) {
        page.addAttribute("accounts", accounts.all());
        return "account/accounts";
    }

    @PostMapping("/accounts/{id}/reset")
    String reset(@PathVariable long id, Principal who, RedirectAttributes flash) {
        flash.addFlashAttribute("told", "The password is gone and its sessions are over. The one-time code, for three days: "
                + accounts.reset(id, who.getName()) + ". It is entered at “I have a one-time code” on the page to sign in.");
        return ACCOUNTS;
    }

    @PostMapping("/accounts/{id}/close")
    String close(@PathVariable long id, Principal who, RedirectAttributes flash) {
        accounts.close(id, who.getName());
        flash.addFlashAttribute("told", "Closed, and signed out everywhere. What it did stays in the history.");
        return ACCOUNTS;
    }

    @PostMapping("/accounts/{id}/reopen")
    String reopen(@PathVariable long id, Principal who, RedirectAttributes flash) {
        accounts.reopen(id, who.getName());
        flash.addFlashAttribute("told", "Open again.");
        return ACCOUNTS;
    }
}
