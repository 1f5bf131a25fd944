package fabbrica.web.stores;

import fabbrica.core.schedule.Chore;
import fabbrica.core.schedule.FloorView.Machine;
import fabbrica.web.platform.Refusal;
import fabbrica.web.platform.events.About;
import fabbrica.web.platform.events.Events;
import fabbrica.web.platform.events.Fact;
import fabbrica.web.platform.events.Happened;
import fabbrica.web.platform.storage.Kept;
import java.time.Clock;
import java.time.Instant;
import java.util.Comparator;
import java.util.List;
import java.util.Map;
import java.util.stream.Collectors;
import org.springframework.context.event.EventListener;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;

/** What keeps the printers going: what is to be done on each, when it was done, and when it is due. */
@Service
public class Maintenance {

    private final MaintenanceRepository repository;
    private final Events events;
    private final Clock clock;
    private final Kept<Map<MaintenanceTask, Double>> all;

    Maintenance(MaintenanceRepository repository, Events events, Clock clock) {
        this.repository = repository;
        this.events = events;
        this.clock = clock;
        this.all = new Kept<>(repository::all);
    }

    /** A task as it stands. */
    public record Due(MaintenanceTask task, MaintenanceTask.Standing standing, String when) {
    }

    /** Hours a printer has run, and what was done on it, change with what happens to it. */
    @EventListener
    void changed(Happened happened) {
        if (happened.about().printer() != null || happened.about().run() != null) {
            all.changed();
        }
    }

    /** Hours that each printer has run in all. */
    public Map<String, Double> hours() {
        return repository.hours();
    }

    /** The most urgent first. */
    public List<Due> due() {
        Instant now = clock.instant();
        return all.get().entrySet().stream().map(each -> new Due(each.getKey(), each.getKey().standing(each.getValue(), now),
                each.getKey().due(each.getValue(), now))).sorted(Comparator.comparing(Due::standing)).toList();
    }

    public List<Due> due(String printerId) {
        return due().stream().filter(due -> due.task().printerId().equals(printerId)).toList();
    }

    /**
     * What is owed to each printer, now and later.
     *
     * @param goesOn hours that what each prints now still adds to its own
     */
    public Map<String, List<Chore>> chores(Map<String, Double> goesOn) {
        return all.get().entrySet().stream().collect(Collectors.groupingBy(each -> each.getKey().printerId(), Collectors.mapping(
                each -> each.getKey().chore(each.getValue() + goesOn.getOrDefault(each.getKey().printerId(), 0.0)), Collectors.toList())));
    }

    /** @throws Refusal when a printer has as many as a plan can keep apart */
    @Transactional
    public void add(String printerId, Routine routine, String who) {
        if (due(printerId).size() >= Machine.MOST_CHORES) {
            throw new Refusal("A printer has at most %d routines. Take one off first.".formatted(Machine.MOST_CHORES));
        }
        repository.insert(new MaintenanceTask(0, printerId, routine, clock.instant(), hoursOf(printerId), false));
        events.record(who, About.printer(printerId), new Fact.Added(Fact.Thing.MAINTENANCE, routine.what()));
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
