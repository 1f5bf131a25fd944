package fabbrica.web.stores;

import fabbrica.core.units.OutOfRange;
import fabbrica.web.platform.events.About;
import fabbrica.web.platform.events.Events;
import fabbrica.web.platform.events.Fact;
import java.time.Clock;
import java.time.Instant;
import java.util.Comparator;
import java.util.List;
import java.util.Map;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;

/** What keeps the printers going: what is to be done on each, when it was done, and when it is due. */
@Service
public class Maintenance {

    private final MaintenanceRepository repository;
    private final Events events;
    private final Clock clock;

    Maintenance(MaintenanceRepository repository, Events events, Clock clock) {
        this.repository = repository;
        this.events = events;
        this.clock = clock;
    }

    /** A task as it stands. */
    public record Due(MaintenanceTask task, MaintenanceTask.Standing standing, String when) {
    }

    /** Hours that each printer has run in all. */
    public Map<String, Double> hours() {
        return repository.hours();
    }

    /** The most urgent first. */
    public List<Due> due() {
        Instant now = clock.instant();
        return repository.all().entrySet().stream().map(each -> new Due(each.getKey(), each.getKey().standing(each.getValue(), now),
                each.getKey().due(each.getValue(), now))).sorted(Comparator.comparing(Due::standing)).toList();
    }

    public List<Due> due(String printerId) {
        return due().stream().filter(due -> due.task().printerId().equals(printerId)).toList();
    }

    /** @throws OutOfRange when it is due neither by hours nor by days, or by values that make no sense */
    @Transactional
    public void add(String printerId, String what, @Nullable Double everyHours, @Nullable Integer everyDays, String who) {
        if (everyHours == null && everyDays == null) {
            throw new OutOfRange("Say after how many hours of running or after how many days it is due.");
        }
        if (everyHours != null) {
            OutOfRange.check("Hours of running", everyHours, 1, 100_000, "h");
        }
        if (everyDays != null) {
            OutOfRange.check("Days", everyDays, 1, 10_000);
        }
        repository.insert(new MaintenanceTask(0, printerId, what, everyHours, everyDays, clock.instant(), hoursOf(printerId), false));
        events.record(who, About.printer(printerId), new Fact.Added(Fact.Thing.MAINTENANCE, what));
    }

    @Transactional
    public void done(long taskId, String who) {
        MaintenanceTask task = repository.task(taskId).orElseThrow();
        double hours = hoursOf(task.printerId());
        repository.insertDone(taskId, clock.instant(), who, hours);
        events.record(who, About.printer(task.printerId()), new Fact.MaintenanceDone(task.what(), hours));
    }

    @Transactional
    public void remove(long taskId, String who) {
        MaintenanceTask task = repository.task(taskId).orElseThrow();
        repository.delete(taskId);
        events.record(who, About.printer(task.printerId()), new Fact.Removed(Fact.Thing.MAINTENANCE, task.what()));
    }

    private double hoursOf(String printerId) {
        return repository.hours().getOrDefault(printerId, 0.0);
    }
}
