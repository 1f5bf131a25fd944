package fabbrica.web.floor;

import fabbrica.core.learn.Likeness;
import fabbrica.core.recipe.Plate;
import fabbrica.web.plan.LaidPlate;
import fabbrica.web.platform.Inspections;
import fabbrica.web.platform.SlicedParts;
import java.util.stream.Stream;
import org.springframework.stereotype.Service;

/** What decides how the parts on plates print, as far as they are measured. */
@Service
class Likenesses {

    private final LastTimeRepository repository;
    private final Inspections inspections;
    private final SlicedParts sliced;

    Likenesses(LastTimeRepository repository, Inspections inspections, SlicedParts sliced) {
        this.repository = repository;
        this.inspections = inspections;
        this.sliced = sliced;
    }

    Stream<Likeness> of(LaidPlate plate) {
        return plate.plate().copies().stream().map(Plate.Copy::part).distinct().filter(part -> !sliced.isOne(part)).flatMap(part -> inspections.ask(part).stream()).map(Likeness::of);
    }

    /** Keeps what a run prints, to be found by what is like it. */
    void remember(long run, LaidPlate plate) {
        of(plate).forEach(part -> repository.insert(run, part));
    }
}
