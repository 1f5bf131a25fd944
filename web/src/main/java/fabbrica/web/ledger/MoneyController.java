package fabbrica.web.ledger;

import fabbrica.core.units.Money;
import fabbrica.web.account.Member;
import fabbrica.web.account.Members;
import fabbrica.web.platform.Moments;
import fabbrica.web.ticket.Charges;
import fabbrica.web.ticket.Ticket;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.springframework.stereotype.Controller;
import org.springframework.ui.Model;
import org.springframework.web.bind.annotation.GetMapping;

/** What members pay: what is still to be paid, and what was paid this month. */
@Controller
class MoneyController {

    private final Charges charges;
    private final Members members;
    private final Moments moments;

    MoneyController(Charges charges, Members members, Moments moments) {
        this.charges = charges;
        this.members = members;
        this.moments = moments;
    }

    /** @param member empty when nobody is named */
    record Unpaid(Ticket ticket, String member) {
    }

    /**
     * @param sum  of what is to be paid, by currency
     * @param paid since the first of this month, by currency
     */
    record MoneyPage(List<Unpaid> unpaid, List<Money> sum, List<Money> paid) {
    }

    @GetMapping("/ledger/money")
    String money(Model page) {
        List<Ticket> unpaid = charges.unpaid();
        Map<Long, Member> named = members.members(unpaid.stream().map(ticket -> ticket.request().memberId()).toList());
        page.addAttribute("page", new MoneyPage(unpaid.stream().map(ticket -> new Unpaid(ticket, Optional.ofNullable(ticket.request().memberId()).map(named::get)
                .map(Member::name).orElse(""))).toList(), charges.due(), charges.paid(moments.at(moments.today().withDayOfMonth(1).atStartOfDay()), moments.now().plusSeconds(1))));
        return "ledger/money";
    }
}
