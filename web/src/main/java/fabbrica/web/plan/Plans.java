package fabbrica.web.plan;

import fabbrica.web.platform.Refusal;
import java.time.Clock;
import java.time.Duration;
import java.util.List;
import java.util.NoSuchElementException;
import java.util.Objects;
import org.springframework.dao.DataIntegrityViolationException;
import org.springframework.scheduling.annotation.Scheduled;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;
import org.springframework.transaction.support.TransactionTemplate;

/** Plans by their numbers. Equal plans are one; those that were looked at and not taken go after a week. */
@Service
public class Plans {

    private static final Duration LOOKED_AT = Duration.ofDays(7);

    private final PlanRepository repository;
    private final Clock clock;
    private final TransactionTemplate transaction;

    Plans(PlanRepository repository, Clock clock, TransactionTemplate transaction) {
        this.repository = repository;
        this.clock = clock;
        this.transaction = transaction;
    }

    /**
     * The plan with these values, stored now unless it is there.
     *
     * @throws Refusal when its printer or its spool is not in the stores
     */
    public Plan keep(PlanEntry entry) {
        return keep(List.of(entry)).getFirst();
    }

    /** So with several, in their order. */
    public List<Plan> keep(List<PlanEntry> entries) {
        List<Plan> there = repository.find(entries);
        if (there.size() == entries.size()) {
            return there;
        }
        try {
            return Objects.requireNonNull(transaction.execute(status -> {
                repository.insertMissing(entries, clock.instant());
                return repository.find(entries);
            }));
        } catch (DataIntegrityViolationException e) {
            throw new Refusal("That printer or that spool is no longer in the stores. Choose another one.");
        }
    }

    /** @throws NoSuchElementException when there is none with that number, or no longer */
    public Plan plan(long id) {
        return repository.find(id).orElseThrow();
    }

    @Scheduled(fixedDelayString = "P1D", initialDelayString = "PT10M")
    @Transactional
    public void forgetUnused() {
        repository.deleteUnused(clock.instant().minus(LOOKED_AT));
    }
}
