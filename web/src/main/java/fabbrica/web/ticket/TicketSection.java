package fabbrica.web.ticket;

import java.util.List;
import java.util.Optional;
import org.jspecify.annotations.Nullable;
import org.springframework.util.MultiValueMap;

/** A stage of a ticket's page. It knows its own record and its own fragment, and can be asked for by itself. */
public interface TicketSection {

    /** Its name in addresses. */
    String name();

    /** What it is called on the page. */
    String title();

    /** Where it stands among the others, from the top. */
    int place();

    /** Nothing when there is nothing to show. */
    Optional<Shown> show(Ticket ticket, Visit visit);

    /**
     * @param result   its result in a line, which stands while it is folded
     * @param fragment of its template, which finds the page under the name "section"
     */
    default Shown shown(String result, String fragment, Object page) {
        return new Shown(name(), title(), result, "", null, false, fragment, page);
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
     * @param result  its result in a line
     * @param promise what it takes and when it is there, to end the verdict with; empty when that is not its matter or not known
     * @param next    the step that it offers; null when it offers none
     * @param open    whether it stands open although the next step may be another's
     */
    record Shown(String name, String title, String result, String promise, @Nullable NextStep next, boolean open, String fragment, Object page) {

        public Shown promising(String sentence) {
            return new Shown(name, title, result, sentence, next, open, fragment, page);
        }

        public Shown offering(@Nullable NextStep step) {
            return new Shown(name, title, result, promise, step, open, fragment, page);
        }

        public Shown opened(boolean whether) {
            return new Shown(name, title, result, promise, next, whether, fragment, page);
        }

        static List<Shown> of(List<TicketSection> sections, Ticket ticket, Visit visit) {
            return sections.stream().map(section -> section.show(ticket, visit)).flatMap(Optional::stream).toList();
        }
    }
}
