package fabbrica.web.floor;

import fabbrica.core.estimate.Tariff.Used;
import fabbrica.web.plan.Usage;
import fabbrica.web.stores.Inventory;
import java.time.Clock;
import java.time.Instant;
import java.util.List;
import java.util.Map;
import org.springframework.stereotype.Component;

/** What runs tell whoever plans. */
@Component
class RunUsage implements Usage {

    private static final int MANY_RUNS = 20;

    private final RunRepository repository;
    private final Inventory inventory;
    private final Clock clock;

    RunUsage(RunRepository repository, Inventory inventory, Clock clock) {
        this.repository = repository;
        this.inventory = inventory;
        this.clock = clock;
    }

    @Override
    public Map<Long, Used> usedThisMonth(List<Long> members) {
        Instant month = clock.instant().atZone(inventory.zone()).toLocalDate().withDayOfMonth(1).atStartOfDay(inventory.zone()).toInstant();
        return repository.used(members, month);
    }

    @Override
    public double failureShare(String printerId) {
        int[] ended = repository.ended(printerId);
        return ended[1] / (double) Math.max(MANY_RUNS, ended[0] + 1);
    }
}
