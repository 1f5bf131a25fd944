package fabbrica.web.ticket;

import java.util.List;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;

/** What designers send along with their models: notes, licences, pictures. */
@Service
public class Enclosures {

    private final EnclosureRepository repository;

    Enclosures(EnclosureRepository repository) {
        this.repository = repository;
    }

    @Transactional
    public void keep(long handOver, List<Enclosure> some) {
        some.forEach(enclosure -> repository.insert(handOver, enclosure));
    }

    public List<Enclosure> ofHandOver(long handOver) {
        return repository.ofHandOver(handOver);
    }

    /** Of the archive that a ticket's model came in. */
    public List<Enclosure> of(Ticket ticket) {
        return !ticket.model().accompanied() ? List.of() : repository.ofModel(ticket.model().id());
    }
}
