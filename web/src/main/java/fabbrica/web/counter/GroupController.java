package fabbrica.web.counter;

import fabbrica.web.account.Member;
import fabbrica.web.account.Members;
import fabbrica.web.floor.Promises;
import fabbrica.web.plan.Forecasts;
import fabbrica.web.platform.FormValues;
import fabbrica.web.platform.Moments;
import fabbrica.web.platform.Seen;
import fabbrica.web.ticket.Purpose;
import fabbrica.web.ticket.Ticket;
import fabbrica.web.ticket.TicketState;
import java.security.Principal;
import java.time.Instant;
import java.util.Comparator;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Set;
import java.util.stream.Collectors;
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

/** A group's page: accepted, planned and followed as one. */
@Controller
@RequestMapping("/counter/groups/{id}")
class GroupController {

    private final Groups groups;
    private final Decisions decisions;
    private final Members members;
    private final Forecasts forecasts;
    private final Promises promises;
    private final Moments moments;

    GroupController(Groups groups, Decisions decisions, Members members, Forecasts forecasts, Promises promises, Moments moments) {
        this.groups = groups;
        this.decisions = decisions;
        this.members = members;
        this.forecasts = forecasts;
        this.promises = promises;
        this.moments = moments;
    }

    /**
     * A ticket of the group.
     *
     * @param there when it is handed out as things stand; null when nobody knows, or it is over
     */
    record Line(Ticket ticket, String member, String wanted, @Nullable Instant there, boolean late) {
    }

    /**
     * @param toDecide how many wait to be accepted
     * @param toPlan   those that lie on no plate yet
     * @param done     how many are printed or handed out
     * @param promise  when all of it is there, or what is missing for that, a sentence
     */
    record GroupPage(Group group, List<Line> lines, long toDecide, List<Long> toPlan, long done, String promise, Purpose[] purposes, Map<String, String> values) {
    }

    @GetMapping
    String group(@PathVariable long id, Model page) {
        Group group = groups.group(id);
        Map<String, String> values = new HashMap<>(Map.of("name", group.name(), "purpose", group.purpose() == null ? "" : group.purpose().name()));
        values.put("neededBy", group.neededBy() == null ? "" : moments.forInput(group.neededBy()));
        return group(group, values, List.of(), page);
    }

    private String group(Group group, Map<String, String> values, List<String> problems, Model page) {
        List<Ticket> all = groups.tickets(group);
        Map<Long, Member> named = members.members(all.stream().map(ticket -> ticket.request().memberId()).toList());
        Forecasts.Floor floor = forecasts.floor();
        List<Line> lines = all.stream().map(ticket -> {
            Instant there = floor.handOut(ticket.id()).orElse(null);
            boolean late = there != null && group.neededBy() != null && there.isAfter(group.neededBy());
            CounterPage.Strip strip = CounterPage.Strip.of(ticket, named, null, group.purpose());
            return new Line(ticket, strip.member(), strip.wanted(), there, late);
        }).toList();
        List<Long> toPlan = all.stream().filter(ticket -> ticket.state() == TicketState.ACCEPTED || ticket.state() == TicketState.FAILED).map(Ticket::id).toList();
        page.addAttribute("problems", problems);
        page.addAttribute("page", new GroupPage(group, lines, all.stream().filter(ticket -> ticket.state().atCounter()).count(), toPlan,
                all.stream().filter(ticket -> ticket.state() == TicketState.PRINTED || ticket.state() == TicketState.HANDED_OUT).count(),
                promise(lines, floor), Purpose.values(), values));
        return "counter/group";
    }

    /** "All of it is there by Thu 15:10", or what nobody knows yet. */
    private String promise(List<Line> lines, Forecasts.Floor floor) {
        List<Line> open = lines.stream().filter(line -> !line.ticket().state().isOver() && line.ticket().state() != TicketState.PRINTED).toList();
        long unknown = open.stream().filter(line -> line.there() == null).count(), late = open.stream().filter(Line::late).count();
        if (open.isEmpty()) {
            return "Nothing more is to be printed.";
        }
        String known = open.stream().map(Line::there).filter(Objects::nonNull).max(Comparator.naturalOrder()).map(moments::say).orElse("");
        Set<Long> ids = open.stream().map(line -> line.ticket().id()).collect(Collectors.toSet());
        String there = unknown == 0 ? "All of it is there by %s%s.".formatted(known, promises.last(floor, ids)
                .map(last -> "; promise it for %s, when it is there in four of five cases".formatted(moments.say(last))).orElse(""))
                : known.isEmpty() ? "Nothing of it has a place on a printer yet." : "What waits is there by %s; %d have no place on a printer yet.".formatted(known, unknown);
        return late == 0 ? there : there + " ■ %d are too late.".formatted(late);
    }

    @PostMapping
    String change(@PathVariable long id, @RequestParam MultiValueMap<String, String> values, Principal who, Model page, RedirectAttributes flash) {
        FormValues form = new FormValues(values);
        Group seen = Seen.unchanged(groups.group(id), form);
        Instant neededBy = form.moment("neededBy", "Needed by").map(moments::at).orElse(null);
        Purpose purpose = form.text("purpose").isEmpty() ? null : Purpose.valueOf(form.text("purpose"));
        String name = form.required("name", "Name");
        if (!form.fine()) {
            return group(seen, values.toSingleValueMap(), form.problems(), page);
        }
        groups.change(seen, new Group(id, name, purpose, neededBy), who.getName());
        flash.addFlashAttribute("told", "Kept.");
        return "redirect:/counter/groups/" + id;
    }

    /** Takes a ticket out of the group. */
    @PostMapping("/release")
    String release(@PathVariable long id, @RequestParam long ticket, @RequestParam MultiValueMap<String, String> values, RedirectAttributes flash) {
        groups.release(Seen.unchanged(groups.tickets(groups.group(id)).stream().filter(each -> each.id() == ticket).findFirst().orElseThrow(), new FormValues(values)));
        flash.addFlashAttribute("told", "Ticket no. %d goes its own way.".formatted(ticket));
        return "redirect:/counter/groups/" + id;
    }

    /** Accepts all of it that lies at the counter. */
    @PostMapping("/accept")
    String accept(@PathVariable long id, @RequestParam MultiValueMap<String, String> values, Principal who, RedirectAttributes flash) {
        Group group = Seen.unchanged(groups.group(id), new FormValues(values));
        Decisions.Outcome outcome = decisions.accept(groups.tickets(group).stream().filter(ticket -> ticket.state().atCounter()).toList(), group.purpose(),
                group.neededBy(), who.getName());
        flash.addFlashAttribute("told", "%d accepted.".formatted(outcome.done()));
        flash.addFlashAttribute("problems", outcome.refused());
        return "redirect:/counter/groups/" + id;
    }
}
