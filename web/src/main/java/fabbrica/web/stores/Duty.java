package fabbrica.web.stores;

import fabbrica.core.schedule.Calendar;
import fabbrica.core.schedule.FloorView.Person;
import fabbrica.core.schedule.Span;
import java.time.Instant;
import java.util.List;

/**
 * Who is there, and when: in the lab's hours, while somebody with a key is on duty. As long as nobody is written down with a key,
 * somebody is there in all the lab's hours who may do everything, and there are enough of them.
 */
public record Duty(Calendar open, List<Keyholder> keyholders) {

    public Duty {
        keyholders = List.copyOf(keyholders);
    }

    /** When somebody is there, as far as it overlaps a stretch of time. */
    public List<Span> staffed(Instant from, Instant to) {
        List<Span> lab = open.between(from, to);
        return keyholders.isEmpty() ? lab : Span.common(lab, Span.joined(keyholders.stream().flatMap(one -> one.hours().between(from, to).stream()).toList()));
    }

    /** Those with a key, and when they are on duty; nobody when nobody is written down. */
    public List<Person> people(Instant from, Instant to) {
        return keyholders.stream().map(one -> new Person(one.name(), one.may(), one.hours().between(from, to))).toList();
    }

    /** The same with other opening hours. */
    public Duty with(Calendar hours) {
        return new Duty(hours, keyholders);
    }

    /** The same with one keyholder as given. */
    public Duty with(Keyholder changed) {
        return new Duty(open, keyholders.stream().map(one -> one.id() == changed.id() ? changed : one).toList());
    }
}
