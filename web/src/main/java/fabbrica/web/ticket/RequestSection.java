package fabbrica.web.ticket;

import fabbrica.core.judge.UsedBy;
import fabbrica.core.recipe.Material;
import fabbrica.web.account.Member;
import fabbrica.web.account.Members;
import fabbrica.web.platform.Moments;
import fabbrica.web.platform.gate.Access;
import fabbrica.web.stores.Inventory;
import fabbrica.web.ticket.Ticket.Request;
import fabbrica.web.ticket.TicketSection.Visit;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Component;
import org.springframework.util.LinkedMultiValueMap;
import org.springframework.util.MultiValueMap;

/** Who asked, what for and until when: a form at the counter, what was asked for after it. */
@Component
class RequestSection implements TicketSection {

    private final Members members;
    private final Inventory inventory;
    private final Enclosures enclosures;
    private final RequestForm form;
    private final Moments moments;

    RequestSection(Members members, Inventory inventory, Enclosures enclosures, RequestForm form, Moments moments) {
        this.members = members;
        this.inventory = inventory;
        this.enclosures = enclosures;
        this.form = form;
        this.moments = moments;
    }

    /**
     * @param values what stands in the form; so with all that follows, empty after the counter
     * @param known  members to choose from
     * @param enclosed what came with its model
     * @param badgeAsked whether no printer of the lab is for everybody
     * @param may    whether whoever looks may accept it, send it back and decline it
     */
    record RequestPage(Ticket ticket, @Nullable Member member, Map<String, String> values, List<Member> known, List<Material> materials,
                       List<Purpose> purposes, String refused, List<Enclosure> enclosed, boolean badgeAsked, boolean may) {

        /** What to mind with this member and this purpose, a sentence each. */
        public List<String> cautions() {
            return ticket.model().isKept() ? Cautions.of(member, ticket.request().purpose(), badgeAsked) : List.of();
        }
    }

    @Override
    public String name() {
        return "request";
    }

    @Override
    public String title() {
        return "Request";
    }

    @Override
    public int place() {
        return 30;
    }

    @Override
    public Optional<Shown> show(Ticket ticket, Visit visit) {
        boolean asks = ticket.model().isKept() && ticket.state().atCounter();
        List<Member> known = asks ? members.search("") : List.of();
        Long id = ticket.request().memberId();
        Member member = id == null ? null : known.stream().filter(each -> each.id() == id).findFirst().or(() -> members.member(id)).orElse(null);
        MultiValueMap<String, String> entered = visit.entered() == null ? new LinkedMultiValueMap<>() : visit.entered();
        boolean badgeAsked = inventory.printers().stream().noneMatch(printer -> printer.usedBy() == UsedBy.EVERYBODY);
        if (!asks) {
            return Optional.of(shown(spoken(ticket, member), "ticket/request :: asked", new RequestPage(ticket, member, entered.toSingleValueMap(),
                    List.of(), List.of(), List.of(), "", enclosures.of(ticket), badgeAsked, false)).opened(visit.entered() != null).offering(ticket.model().isKept() && ticket.state().canBeReopened()
                    ? NextStep.press("Take in again", "reopen", "") : null));
        }
        boolean may = Access.mayPost("/tickets/%d/accept".formatted(ticket.id()));
        RequestPage page = new RequestPage(ticket, member, (visit.entered() == null ? values(ticket, member) : entered).toSingleValueMap(),
                known, inventory.materials(), List.of(Purpose.values()), inventory.lab().policy().refused(),
                enclosures.of(ticket), badgeAsked, may);
        return Optional.of(shown(spoken(ticket, member), "ticket/request :: request", page).opened(visit.entered() != null).offering(
                may ? NextStep.press("Accept", "request", "")
                        : NextStep.press("Keep for later", "request", "A coordinator accepts it.")));
    }

    /** "June Abara, a gift, needed Thu 17:00, 3 copies, sand". */
    private String spoken(Ticket ticket, @Nullable Member member) {
        Request request = ticket.request();
        return Stream.of(member == null ? "nobody named yet" : member.name(), request.purpose() == null ? "" : request.purpose().label().toLowerCase(Locale.ROOT),
                request.neededBy() == null ? "" : "needed " + moments.say(request.neededBy()), request.quantity() == 1 ? "" : request.quantity() + " copies",
                request.materialWish(), request.colourWish()).filter(part -> !part.isBlank()).collect(Collectors.joining(", "));
    }

    private MultiValueMap<String, String> values(Ticket ticket, @Nullable Member member) {
        MultiValueMap<String, String> values = form.values(ticket.request());
        values.set("memberName", member == null ? "" : member.name());
        return values;
    }
}
