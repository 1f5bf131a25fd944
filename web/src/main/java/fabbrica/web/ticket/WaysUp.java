package fabbrica.web.ticket;

import fabbrica.core.inspect.Inspection;
import fabbrica.core.inspect.PrintLimits;
import fabbrica.core.judge.TurnAdvice;
import fabbrica.core.mesh.model.Rotation;
import fabbrica.core.recipe.Part;
import fabbrica.web.platform.Caches;
import fabbrica.web.platform.Inspections;
import fabbrica.web.platform.Meshes;
import fabbrica.web.platform.Standing;
import fabbrica.web.platform.Works;
import jakarta.annotation.PreDestroy;
import java.util.Optional;
import org.springframework.stereotype.Service;

/** Which way up a ticket's part should lie: worked out beside the pages, and only where lying another way may cure something. */
@Service
public class WaysUp {

    private final Inspections inspections;
    private final Meshes meshes;
    private final Works<Part, Optional<WayUp>> works = new Works<>(Caches.of(500).build(), "It could not be found out which way up it should lie.",
            (drawn, progress) -> best(drawn));

    WaysUp(Inspections inspections, Meshes meshes) {
        this.inspections = inspections;
        this.meshes = meshes;
    }

    /**
     * A way to lie that is advised.
     *
     * @param rotation from how the part was drawn
     * @param reason   a sentence
     */
    public record WayUp(Rotation rotation, String reason) {
    }

    /** Whether something is advised instead of how the part was drawn, and what; begun when nobody has asked before. */
    public Standing<Optional<WayUp>> ask(Ticket ticket) {
        if (ticket.isSliced()) {
            return new Standing.Done<>(Optional.empty());
        }
        Part drawn = ticket.part().turned(Rotation.NONE);
        boolean lies = ticket.rotation().equals(Rotation.NONE);
        return lies && !TurnAdvice.mayHelp(inspections.of(drawn), PrintLimits.USUAL) ? new Standing.Done<>(Optional.empty()) : works.ask(drawn);
    }

    /** What is advised, when it is known; nothing is begun. */
    public Optional<WayUp> known(Ticket ticket) {
        return works.known(ticket.part().turned(Rotation.NONE)).flatMap(way -> way);
    }

    /** The best way is measured as well, so that a part can be turned without waiting. */
    private Optional<WayUp> best(Part drawn) {
        Inspection now = inspections.of(drawn);
        if (!TurnAdvice.mayHelp(now, PrintLimits.USUAL)) {
            return Optional.empty();
        }
        Rotation best = meshes.poses(drawn).getFirst().rotation();
        return TurnAdvice.of(now, inspections.of(drawn.turned(best)), PrintLimits.USUAL).map(advice -> new WayUp(best, advice.reason()));
    }

    @PreDestroy
    void close() {
        works.close();
    }
}
