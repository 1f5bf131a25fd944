package fabbrica.web.floor;

import java.util.Collection;
import java.util.Set;

/** Whether tickets are one of a class, a club, an event: many wait for them at once. */
public interface Together {

    /** Those of some tickets that are. */
    Set<Long> grouped(Collection<Long> some);
}
