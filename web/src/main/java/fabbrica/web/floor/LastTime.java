package fabbrica.web.floor;

import fabbrica.web.plan.LaidPlate;
import java.util.Collection;
import java.util.List;
import java.util.Map;
import java.util.function.Function;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import org.springframework.stereotype.Service;

/** What happened when something like it was printed before. */
@Service
class LastTime {

    private static final int MOST = 3;
    /** So many runs of the same file are known as such, and not told as something alike. */
    private static final int OF_FILE = 500;

    private final LastTimeRepository repository;
    private final Runs runs;
    private final Likenesses likenesses;

    LastTime(LastTimeRepository repository, Runs runs, Likenesses likenesses) {
        this.repository = repository;
        this.runs = runs;
        this.likenesses = likenesses;
    }

    /**
     * @param same    runs of the same files, the latest first
     * @param alike   of parts that print alike, so too
     * @param sources how those from the same sources went
     */
    record Before(List<Run> same, List<Run> alike, List<LastTimeRepository.Of> sources) {

        public boolean isEmpty() {
            return same.isEmpty() && alike.isEmpty() && sources.isEmpty();
        }
    }

    Before of(LaidPlate plate) {
        List<Long> ofFile = repository.sameFile(plate.tickets(), OF_FILE), same = ofFile.stream().limit(MOST).toList();
        List<Long> alike = likenesses.of(plate).flatMap(part -> repository.alike(part, ofFile, MOST).stream()).distinct().limit(MOST).toList();
        Map<Long, Run> all = runs.runs(Stream.concat(same.stream(), alike.stream()).toList()).stream().collect(Collectors.toMap(Run::id, Function.identity()));
        return new Before(in(same, all), in(alike, all), repository.sameSource(plate.tickets()));
    }

    private static List<Run> in(Collection<Long> order, Map<Long, Run> all) {
        return order.stream().flatMap(id -> Stream.ofNullable(all.get(id))).toList();
    }
}
