package fabbrica.web.account;

import fabbrica.web.platform.FormTokens;
import fabbrica.web.platform.FormValues;
import fabbrica.web.platform.Outdated;
import fabbrica.web.platform.Refusal;
import fabbrica.web.platform.Seen;
import fabbrica.web.stores.Inventory;
import fabbrica.web.stores.Lab;
import fabbrica.web.stores.StockPrinter;
import java.security.Principal;
import java.util.Currency;
import java.util.HashSet;
import java.util.List;
import java.util.Locale;
import java.util.Set;
import org.springframework.security.core.Authentication;
import org.springframework.stereotype.Controller;
import org.springframework.ui.Model;
import org.springframework.util.MultiValueMap;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.servlet.mvc.support.RedirectAttributes;

/** Signing in, the first visit, and the members. */
@Controller
class AccountController {

    private final Accounts accounts;
    private final Members members;
    private final FirstVisit firstVisit;
    private final Inventory inventory;
    private final FormTokens tokens;

    AccountController(Accounts accounts, Members members, FirstVisit firstVisit, Inventory inventory,
                      FormTokens tokens) {
        this.accounts = accounts;
        this.members = members;
        this.firstVisit = firstVisit;
        this.inventory = inventory;
        this.tokens = tokens;
    }

    @GetMapping("/")
    String home(Authentication who) {
        boolean member = who.getAuthorities().stream().anyMatch(a -> "ROLE_MEMBER".equals(a.getAuthority()));
        return member ? "redirect:/mine" : "redirect:/counter";
    }

    @GetMapping("/sign-in")
    String signIn() {
        return firstVisit.pending() ? "redirect:/setup" : "account/sign-in";
    }

    @GetMapping("/setup")
    String setup(Model page) {
        page.addAttribute("problems", List.of());
        page.addAttribute("v", java.util.Map.of("currency", "EUR"));
        return firstVisit.pending() ? "account/setup" : "redirect:/sign-in";
    }

    @PostMapping("/setup")
    String create(@RequestParam MultiValueMap<String, String> values, Model page) {
        if (!firstVisit.pending()) {
            return "redirect:/sign-in";
        }
        FormValues form = new FormValues(values);
        String lab = form.required("lab", "Name of the lab");
        String name = form.required("name", "Your name");
        String username = form.required("username", "Sign-in name");
        String currency = form.required("currency", "Currency").toUpperCase(Locale.ROOT);
        if (Currency.getAvailableCurrencies().stream().noneMatch(c -> c.getCurrencyCode().equals(currency))) {
            form.problem("Currency takes a three-letter code such as EUR.");
        }
        if (!firstVisit.accepts(form.text("code"))) {
            form.problem("The one-time code is not the one in the terminal.");
        }
        if (form.fine()) {
            try {
                firstVisit.setUp(username, String.valueOf(values.getFirst("password")), name, new Lab(lab, Currency.getInstance(currency), null, 200));
                return "redirect:/sign-in?ready";
            } catch (Refusal refusal) {
                form.problem(refusal.getMessage());
            }
        }
        page.addAttribute("problems", form.problems());
        page.addAttribute("v", values.toSingleValueMap());
        return "account/setup";
    }

    /** Members that match. */
    record MembersPage(String search, List<Member> members, List<StockPrinter> printers) {
    }

    @GetMapping("/members")
    String list(@RequestParam(defaultValue = "") String search, Model page) {
        page.addAttribute("page", new MembersPage(search, members.search(search), inventory.printers()));
        return "account/members";
    }

    /** Lets somebody sign in: a helper, another coordinator, or a member who wants to see their own tickets. */
    @PostMapping("/members/accounts")
    String addAccount(@RequestParam MultiValueMap<String, String> values, Principal who, RedirectAttributes flash) {
        FormValues form = new FormValues(values);
        String username = form.required("username", "Sign-in name");
        Role role = Role.valueOf(form.text("role"));
        String memberName = form.text("memberName");
        Long member = members.named(memberName).map(Member::id).orElse(null);
        if (role == Role.MEMBER && member == null) {
            form.problem("A member's account needs the member's name as it stands in the list.");
        }
        form.refuseIfWrong();
        accounts.add(username, String.valueOf(values.getFirst("password")), role, username, role == Role.MEMBER ? member : null, who.getName());
        flash.addFlashAttribute("told", "“" + username + "” can sign in now.");
        return "redirect:/members";
    }

    @GetMapping("/members/{id}")
    String member(@PathVariable long id, Model page) {
        Member member = id == 0 ? new Member(0, "", false, "", "", "", new HashSet<>()) : members.member(id).orElseThrow();
        return form(member, Seen.of(member), List.of(), page);
    }

    @PostMapping("/members/{id}")
    String save(@PathVariable long id, @RequestParam MultiValueMap<String, String> values, Principal who, Model page) {
        FormValues form = new FormValues(values);
        Member member = new Member(id, form.required("name", "Name"), form.flag("minor"), form.text("grownUp"),
                form.text("note"), form.text("class"), new HashSet<>(form.all("badge"))).with(new Member.Mail(Addresses.of(form, "email"),
                Addresses.of(form, "grownUpEmail")));
        if (member.lacksGrownUp()) {
            form.problem("A minor needs a grown-up who answers for them: name one.");
        }
        if (!form.fine()) {
            return form(member, form.text(Seen.FIELD), form.problems(), page);
        }
        if (id == 0) {
            tokens.once(form, () -> members.add(member, who.getName()));
            return "redirect:/members";
        }
        try {
            members.change(Seen.unchanged(members.member(id).orElseThrow(), form), member, who.getName());
            return "redirect:/members";
        } catch (Outdated outdated) {
            return form(member, Seen.of(members.member(id).orElseThrow()), List.of(outdated.getMessage()), page);
        }
    }

    /** A member and what they may use. */
    record MemberPage(Member member, String seen, List<StockPrinter> printers, Set<String> classes, List<Member> others) {
    }

    private String form(Member member, String seen, List<String> problems, Model page) {
        page.addAttribute("problems", problems);
        page.addAttribute("page", new MemberPage(member, seen, inventory.printers(), inventory.lab().tariff().rates().keySet(),
                members.all().stream().filter(other -> other.id() != member.id()).toList()));
        return "account/member";
    }
}
