package fabbrica.web.privacy;

import fabbrica.web.account.Members;
import fabbrica.web.platform.Refusal;
import fabbrica.web.platform.storage.FileStore;
import fabbrica.web.stores.Inventory;
import fabbrica.web.stores.Keeping;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.function.Function;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.context.annotation.Lazy;
import org.springframework.scheduling.annotation.Scheduled;
import org.springframework.stereotype.Component;
import org.springframework.transaction.support.TransactionTemplate;

/** Lets go of what is kept longer than the lab says. */
@Component
@Lazy(false)
class Retention {

    private static final Logger LOG = LoggerFactory.getLogger(Retention.class);
    private static final String WHO = "the lab's time of keeping";

    private final PrivacyRepository repository;
    private final Forgetting forgetting;
    private final Members members;
    private final Inventory inventory;
    private final FileStore files;
    private final Clock clock;
    private final TransactionTemplate transaction;

    Retention(PrivacyRepository repository, Forgetting forgetting, Members members, Inventory inventory, FileStore files,
              Clock clock, TransactionTemplate transaction) {
        this.repository = repository;
        this.forgetting = forgetting;
        this.members = members;
        this.inventory = inventory;
        this.files = files;
        this.clock = clock;
        this.transaction = transaction;
    }

    /** Every few hours, so that it happens each day also where the computer is switched off at night. */
    @Scheduled(initialDelayString = "PT5M", fixedDelayString = "PT6H")
    void letGo() {
        inventory.setUp().ifPresent(lab -> letGo(lab.keeping()));
    }

    private void letGo(Keeping keeping) {
        drop(keeping.photosDays(), repository::dropPhotosBefore);
        drop(keeping.modelsDays(), repository::dropSlicedFilesUntouchedSince);
        drop(keeping.modelsDays(), moment -> repository.modelsUntouchedSince(moment).stream()
                .flatMap(model -> repository.dropModel(model).stream()).toList());
        drop(keeping.modelsDays(), moment -> repository.dropEnclosures());
        if (keeping.membersDays() > 0) {
            repository.membersUnseenSince(ago(keeping.membersDays())).forEach(this::forget);
        }
    }

    /** @param dropped takes what was last needed before a moment from the database, and tells its files */
    private void drop(int days, Function<Instant, List<String>> dropped) {
        if (days > 0) {
            List<String> unneeded = new ArrayList<>(transaction.execute(status -> dropped.apply(ago(days))));
            unneeded.forEach(files::release);
        }
    }

    private void forget(long member) {
        try {
            forgetting.forget(members.member(member).orElseThrow(), WHO);
        } catch (Refusal changed) {
            LOG.info("member {} is kept for now: {}", member, changed.getMessage());
        }
    }

    private Instant ago(int days) {
        return clock.instant().minus(Duration.ofDays(days));
    }
}
