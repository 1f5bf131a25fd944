package fabbrica.web.plan;

import fabbrica.web.platform.Refusal;
import java.time.Clock;
import java.time.Duration;
import java.util.NoSuchElementException;
import org.springframework.dao.DataIntegrityViolationException;
import org.springframework.scheduling.annotation.Scheduled;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;

/** Plans by their numbers. Equal plans are one; those that were looked at and not taken go after a week. */
@Service
public class Plans {

    private static final Duration LOOKED_AT = Duration.ofDays(7);

    private final PlanRepository repository;
    private final Clock clock;

    Plans(PlanRepository repository, Clock clock) {
        this.repository = repository;
        this.clock = clock;
    }

    /**
     * The plan with these values, stored now unless it is there.
     *
     * @throws Refusal when its printer or its spool is not in the stores
     */
    @Transactional
    public Plan keep(PlanEntry entry) {
        try {
            return repository.find(entry).orElseGet(() -> new Plan(repository.insert(entry, clock.instant()), entry));
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
