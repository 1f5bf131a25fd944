package fabbrica.web.floor;

import fabbrica.core.estimate.Calibration;
import fabbrica.core.estimate.Tariff.Used;
import fabbrica.core.learn.Calibrations;
import fabbrica.web.plan.Usage;
import fabbrica.web.platform.storage.Kept;
import fabbrica.web.stores.Inventory;
import fabbrica.web.stores.Lessons;
import java.time.Clock;
import java.time.Instant;
import java.util.List;
import java.util.Map;
import java.util.stream.Collectors;
import org.springframework.stereotype.Component;

/** What runs tell whoever plans, and have taught about their printers. */
@Component
class RunUsage implements Usage, Lessons {

    private static final int MANY_RUNS = 20;

    private final RunRepository repository;
    private final Inventory inventory;
    private final Clock clock;
    private final Kept<Map<String, Double>> failures;
    private final Kept<Calibrations> calibrations;

    RunUsage(RunRepository repository, Inventory inventory, Clock clock) {
        this.repository = repository;
        this.inventory = inventory;
        this.clock = clock;
        this.failures = new Kept<>(() -> repository.ended().entrySet().stream().collect(Collectors.toMap(Map.Entry::getKey,
                ended -> ended.getValue()[1] / (double) Math.max(MANY_RUNS, ended.getValue()[0] + 1))));
        this.calibrations = new Kept<>(() -> Calibrations.of(inventory.printers().stream().flatMap(printer -> repository.experiences(printer.id(), Calibrations.LATEST).stream())
                .toList()));
    }

    /** Says that the transaction that is open ends a run, or puts one right. */
    void changed() {
        failures.changed();
        calibrations.changed();
    }

    @Override
    public Calibration calibration(String printerId) {
        return calibrations.get().of(printerId);
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
