package fabbrica.web.ticket;

import java.util.Optional;
import org.springframework.ui.Model;
import org.springframework.util.MultiValueMap;

/** A part of a ticket's page that belongs to another place. */
public interface TicketSection {

    /** Where it stands among the others, from the top. */
    int place();

    /**
     * Puts what it shows into the page.
     *
     * @param values of the page's address
     * @return the template's fragment; nothing when there is nothing to show
     */
    Optional<String> show(Ticket ticket, MultiValueMap<String, String> values, Model page);
}
