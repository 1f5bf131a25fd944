package fabbrica.web.learn;

import fabbrica.core.learn.ControlChart;
import fabbrica.core.learn.ControlChart.Move;
import fabbrica.core.learn.Rate;
import fabbrica.core.learn.Reliability;
import fabbrica.web.learn.RunFactRepository.Care;
import fabbrica.web.stores.Inventory;
import fabbrica.web.ticket.Purpose;
import java.time.Duration;
import java.time.Instant;
import java.time.ZoneId;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.function.Function;
import java.util.stream.Collectors;
import org.springframework.stereotype.Service;

/** How reliably the lab prints: told apart by what a run has, and since when. */
@Service
class Reliabilities {

    /** What was done so long before or after a rate moved may have to do with it (common practice, no source). */
    private static final Duration AROUND = Duration.ofDays(10);
    private static final double FRESH_H = 100;
    private static final double WORN_H = 300;
    private static final double SMALL_G = 10;
    private static final double MIDDLING_G = 50;
    private static final double LARGE_G = 200;
    private static final int HOURS = 3;

    private final RunFactRepository repository;
    private final Inventory inventory;

    Reliabilities(RunFactRepository repository, Inventory inventory) {
        this.repository = repository;
        this.inventory = inventory;
    }

    /** @param by what runs are told apart by */
    record Told(String by, Reliability reliability) {
    }

    /**
     * When a printer's rate moved.
     *
     * @param told  when it was clear
     * @param care  what was done on it around then; may be empty
     */
    record Moved(Move move, Instant since, Instant told, List<Care> care) {
    }

    /** A printer as its runs went, one after another. */
    record Watched(String printer, int runs, ControlChart chart, List<Moved> moves) {
    }

    /** @param all nothing as long as no run has ended */
    record Report(int runs, Optional<Rate> all, List<Told> told, List<Watched> watched) {
    }

    Report since(Instant from) {
        List<RunFact> facts = repository.since(from);
        if (facts.isEmpty()) {
            return new Report(0, Optional.empty(), List.of(), List.of());
        }
        Rate all = new Rate((int) facts.stream().filter(RunFact::failed).count(), facts.size());
        return new Report(facts.size(), Optional.of(all), told(facts), watched(facts, all, repository.care(from.minus(AROUND))));
    }

    private List<Told> told(List<RunFact> facts) {
        ZoneId zone = inventory.zone();
        return List.of(told("Printer", facts, RunFact::printer), told("Material", facts, RunFact::material), told("Age of the nozzle", facts, fact -> age(fact.nozzleHours())),
                told("Source of the model", facts, fact -> said(fact.sources())), told("Purpose", facts, fact -> purpose(fact.purposes())),
                told("Size", facts, fact -> size(fact.grams())), told("Hour it was started", facts, fact -> hours(fact.startedAt().atZone(zone).getHour())));
    }

    private static Told told(String by, List<RunFact> facts, Function<RunFact, String> of) {
        return new Told(by, Reliability.of(facts, RunFact::failed, of));
    }

    private static List<Watched> watched(List<RunFact> facts, Rate all, List<Care> care) {
        Map<String, List<RunFact>> byPrinter = facts.stream().collect(Collectors.groupingBy(RunFact::printerId, LinkedHashMap::new, Collectors.toList()));
        List<Watched> watched = new ArrayList<>();
        byPrinter.forEach((printer, own) -> {
            ControlChart chart = ControlChart.of(own.stream().map(RunFact::failed).toList(), all.share());
            watched.add(new Watched(own.getFirst().printer(), own.size(), chart, chart.moves().stream().map(move -> moved(move, own, care)).toList()));
        });
        return watched;
    }

    private static Moved moved(Move move, List<RunFact> own, List<Care> care) {
        Instant since = own.get(move.since()).startedAt(), told = own.get(move.told()).startedAt();
        String printer = own.getFirst().printerId();
        return new Moved(move, since, told, care.stream().filter(each -> each.printerId().equals(printer) && each.at().isAfter(since.minus(AROUND)) && each.at().isBefore(told)).toList());
    }

    private static String age(double hours) {
        return hours < 0 ? "not known" : hours < FRESH_H ? "under 100 h" : hours < WORN_H ? "100 to 300 h" : "over 300 h";
    }

    private static String said(String source) {
        return source.isEmpty() ? "not said" : source;
    }

    private static String purpose(String name) {
        return name.isEmpty() ? "not said" : name.equals(name.toLowerCase(Locale.ROOT)) ? name : Purpose.valueOf(name).label();
    }

    private static String size(double grams) {
        return grams < SMALL_G ? "under 10 g" : grams < MIDDLING_G ? "10 to 50 g" : grams < LARGE_G ? "50 to 200 g" : "over 200 g";
    }

    private static String hours(int hour) {
        int from = hour / HOURS * HOURS;
        return "%02d to %02d h".formatted(from, from + HOURS);
    }
}
