package fabbrica.web.ticket;

import fabbrica.core.estimate.Tariff;
import fabbrica.core.units.Money;
import fabbrica.web.account.Member;
import fabbrica.web.account.Members;
import fabbrica.web.platform.Back;
import fabbrica.web.platform.FormValues;
import fabbrica.web.platform.Refusal;
import fabbrica.web.platform.Seen;
import fabbrica.web.stores.Inventory;
import fabbrica.web.stores.Lab;
import java.security.Principal;
import java.util.Optional;
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

/** What a ticket costs: asked about, agreed to, paid, and the receipt. */
@Controller
@RequestMapping("/tickets/{id}")
class ChargeController {

    private final Tickets tickets;
    private final Charges charges;
    private final Members members;
    private final Inventory inventory;

    ChargeController(Tickets tickets, Charges charges, Members members, Inventory inventory) {
        this.tickets = tickets;
        this.charges = charges;
        this.members = members;
        this.inventory = inventory;
    }

    private Ticket seen(long id, MultiValueMap<String, String> values) {
        return Seen.unchanged(tickets.ticket(id), new FormValues(values));
    }

    @PostMapping("/price/ask")
    String ask(@PathVariable long id, @RequestParam long coins, @RequestParam MultiValueMap<String, String> values, Principal who, RedirectAttributes flash) {
        charges.ask(seen(id, values), Money.ofCoins(coins, inventory.lab().currency()), who.getName());
        flash.addFlashAttribute("told", "Asked. The answer comes on the member's page, or is said at the counter.");
        return "redirect:/tickets/" + id;
    }

    /** The member has said yes at the counter. */
    @PostMapping("/price/agree")
    String agree(@PathVariable long id, @RequestParam MultiValueMap<String, String> values, Principal who, RedirectAttributes flash) {
        charges.agree(seen(id, values), who.getName());
        flash.addFlashAttribute("told", "Written down: the price is all right.");
        return "redirect:/tickets/" + id;
    }

    @PostMapping("/pay")
    String pay(@PathVariable long id, @RequestParam MultiValueMap<String, String> values, Principal who, RedirectAttributes flash) {
        charges.pay(seen(id, values), who.getName());
        flash.addFlashAttribute("told", "Paid.");
        return Back.to(new FormValues(values), "/tickets/" + id);
    }

    /** @param member null when nobody is named */
    record ReceiptPage(Ticket ticket, @Nullable Member member, Lab lab, Tariff.Quote quote) {
    }

    @GetMapping("/receipt")
    String receipt(@PathVariable long id, Model page) {
        Ticket ticket = tickets.ticket(id);
        page.addAttribute("page", new ReceiptPage(ticket, Optional.ofNullable(ticket.request().memberId()).flatMap(members::member).orElse(null), inventory.lab(),
                charges.quote(id).filter(quote -> ticket.charge().paidAt() != null).orElseThrow(() -> new Refusal("Nothing was paid for this ticket yet."))));
        return "ticket/receipt";
    }
}
