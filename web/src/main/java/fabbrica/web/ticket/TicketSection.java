package fabbrica.web.ticket;

import java.util.List;
import java.util.Optional;
import org.jspecify.annotations.Nullable;
import org.springframework.util.MultiValueMap;

/** A part of a ticket's page. It knows its own record and its own fragment, and can be asked for by itself. */
public interface TicketSection {

    /** Its name in addresses and on the page, where links lead to it. */
    String name();

    /** Where it stands among the others, from the top. */
    int place();

    /** By which the head of the page leads to it; empty when it does not. */
    default String label() {
        return "";
    }

    /** Nothing when there is nothing to show. */
    Optional<Shown> show(Ticket ticket, Visit visit);

    default Optional<Shown> shown(String fragment, Object page) {
        return Optional.of(new Shown(name(), label(), fragment, page));
    }

    /**
     * What a page is asked with.
     *
     * @param address the values of its address
     * @param entered a form that could not be taken, as it was filled in; null when there is none
     */
    record Visit(MultiValueMap<String, String> address, @Nullable MultiValueMap<String, String> entered) {
    }

    /**
     * A section that is shown.
     *
     * @param fragment of its template, which finds the page under the name "section"
     */
    record Shown(String name, String label, String fragment, Object page) {

        static List<Shown> of(List<TicketSection> sections, Ticket ticket, Visit visit) {
            return sections.stream().map(section -> section.show(ticket, visit)).flatMap(Optional::stream).toList();
        }
    }
}
