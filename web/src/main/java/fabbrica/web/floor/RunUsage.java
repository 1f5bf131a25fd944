package fabbrica.web.floor;

import fabbrica.core.estimate.Tariff.Used;
import fabbrica.web.plan.Usage;
import fabbrica.web.platform.storage.Kept;
import fabbrica.web.stores.Inventory;
import java.time.Clock;
import java.time.Instant;
import java.util.List;
import java.util.Map;
import java.util.stream.Collectors;
import org.springframework.stereotype.Component;

/** What runs tell whoever plans. */
@Component
class RunUsage implements Usage {

    private static final int MANY_RUNS = 20;

    private final RunRepository repository;
    private final Inventory inventory;
    private final Clock clock;
    private final Kept<Map<String, Double>> failures;

    RunUsage(RunRepository repository, Inventory inventory, Clock clock) {
        this.repository = repository;
        this.inventory = inventory;
        this.clock = clock;
        this.failures = new Kept<>(() -> repository.ended().entrySet().stream().collect(Collectors.toMap(Map.Entry::getKey,
                ended -> ended.getValue()[1] / (double) Math.max(MANY_RUNS, ended.getValue()[0] + 1))));
    }

    /** Says that the transaction that is open ends a run, or puts one right. */
    void changed() {
        failures.changed();
    }

    @Override
    public Map<Long, Used> usedThisMonth(List<Long> members) {
        Instant month = clock.instant().atZone(inventory.zone()).toLocalDate().withDayOfMonth(1).atStartOfDay(inventory.zone()).toInstant();
        return repository.used(members, month);
    }

    @Override
    public double failureShare(String printerId) {
        return failures.get().getOrDefault(printerId, 0.0);
    }
}
