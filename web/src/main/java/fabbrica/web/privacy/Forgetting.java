package fabbrica.web.privacy;

import fabbrica.web.account.Accounts;
import fabbrica.web.account.Member;
import fabbrica.web.account.Members;
import fabbrica.web.platform.storage.FileStore;
import fabbrica.web.ticket.Ticket;
import fabbrica.web.ticket.Tickets;
import java.util.ArrayList;
import java.util.List;
import java.util.function.UnaryOperator;
import java.util.stream.Stream;
import org.springframework.stereotype.Service;
import org.springframework.transaction.support.TransactionTemplate;

/**
 * Forgets a member for good: the name, a minor's grown-up's, notes, badges and accounts, the models, sliced files and photos
 * of the member's tickets, and mentions of the names in what people wrote. Tickets, runs, grams and times stay under a
 * number, so that counts do. What goes is overwritten in the database; backups keep it until they go themselves.
 */
@Service
public class Forgetting {

    private final PrivacyRepository repository;
    private final Members members;
    private final Accounts accounts;
    private final Tickets tickets;
    private final FileStore files;
    private final TransactionTemplate transaction;

    Forgetting(PrivacyRepository repository, Members members, Accounts accounts, Tickets tickets, FileStore files,
               TransactionTemplate transaction) {
        this.repository = repository;
        this.members = members;
        this.accounts = accounts;
        this.tickets = tickets;
        this.files = files;
        this.transaction = transaction;
    }

    /**
     * @throws fabbrica.web.platform.Refusal  while one of the member's tickets is printing; then nothing is changed
     * @throws fabbrica.web.platform.Outdated when the member is no longer as somebody saw them
     */
    public void forget(Member seen, String who) {
        List<String> unneeded = transaction.execute(status -> forgotten(seen, who));
        unneeded.forEach(files::release);
        repository.emptyLog();
    }

    private List<String> forgotten(Member seen, String who) {
        repository.beginForgetting();
        for (Ticket ticket : tickets.ofMember(seen.id())) {
            if (!ticket.state().isOver()) {
                tickets.withdraw(ticket, "its member was forgotten", who);
            }
        }
        members.forget(seen, who);
        accounts.forget(seen.id(), who);
        List<String> unneeded = new ArrayList<>(repository.dropPhotosOf(seen.id()));
        unneeded.addAll(repository.dropSlicedFilesOf(seen.id()));
        for (long model : repository.modelsOf(seen.id())) {
            unneeded.addAll(repository.dropModel(model));
            repository.dropName(model);
        }
        unneeded.addAll(repository.dropEnclosures());
        strike(seen);
        return unneeded;
    }

    /** A name of one word, or one of somebody who is still known, is only struck from the member's own tickets. */
    private void strike(Member seen) {
        List<String> names = Stream.of(seen.name(), seen.grownUp()).map(String::strip).filter(name -> !name.isEmpty()).toList();
        List<String> unmistakable = names.stream().filter(name -> name.contains(" ") && !repository.isKnown(name)).toList();
        UnaryOperator<String> hers = Mentions.andInPart(names)::struckFrom;
        UnaryOperator<String> elsewhere = Mentions.inFull(unmistakable)::struckFrom;
        repository.rewrite(seen.id(), hers, elsewhere);
    }
}
