package fabbrica.web.floor;

import fabbrica.web.plan.Forecasts;
import fabbrica.web.platform.Live;
import fabbrica.web.platform.Outdated;
import fabbrica.web.platform.Refusal;
import fabbrica.web.platform.storage.Snapshots;
import java.time.Clock;
import java.util.Optional;
import java.util.function.Supplier;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;

/** The floor plan that holds, and the draft of the next one, which all who plan share. */
@Service
class FloorPlans {

    private final FloorPlanRepository repository;
    private final Forecasts forecasts;
    private final Claims claims;
    private final Live live;
    private final Clock clock;
    private final Supplier<Desk> desk;

    FloorPlans(FloorPlanRepository repository, Forecasts forecasts, Claims claims, Live live, Clock clock, Snapshots snapshots) {
        this.repository = repository;
        this.forecasts = forecasts;
        this.claims = claims;
        this.live = live;
        this.clock = clock;
        this.desk = snapshots.of(this::look);
    }

    /**
     * Where planning stands; a form that changes it is made from it.
     *
     * @param draft       0 when nothing is being planned
     * @param publication 0 when nothing was published yet
     */
    record Stand(long draft, long publication) {

        /** As a form carries it. */
        public String mark() {
            return draft + "." + publication;
        }

        /** @throws Outdated when no form was made so */
        static Stand of(String mark) {
            String[] parts = mark.split("\\.");
            try {
                return new Stand(Long.parseLong(parts[0]), Long.parseLong(parts[parts.length - 1]));
            } catch (NumberFormatException none) {
                throw new Outdated();
            }
        }
    }

    /**
     * The floor plan as it is being looked at.
     *
     * @param queues as the floor goes now
     * @param plan   as it would by the draft; the same without one
     */
    record Desk(Optional<Draft> draft, Optional<Publication> publication, FloorPlan queues, FloorPlan plan) {

        Stand stand() {
            return new Stand(draft.map(Draft::id).orElse(0L), publication.map(Publication::id).orElse(0L));
        }
    }

    Desk desk() {
        return desk.get();
    }

    private Desk look() {
        Forecasts.Floor floor = forecasts.floor();
        FloorPlan queues = FloorPlan.queues(floor, claims.of(floor.waiting()));
        Optional<Draft> draft = repository.draft();
        return new Desk(draft, repository.publication(), queues, draft.map(each -> FloorPlan.of(floor, queues.claims(), each)).orElse(queues));
    }

    /** Puts another step on the draft. */
    @Transactional
    public void draft(Desk seen, FloorPlan plan, String what, String who) {
        requireUnchanged(seen.stand());
        repository.insert(plan.placed(), what, who, clock.instant());
        live.floorMoves();
    }

    /** Puts something better in the place of a draft that nobody has gone on with since. */
    @Transactional
    public boolean better(long draft, FloorPlan plan) {
        if (repository.draftId() != draft) {
            return false;
        }
        repository.replace(draft, plan.placed());
        live.floorMoves();
        return true;
    }

    /** Takes the last step back. */
    @Transactional
    public void undo(Stand seen) {
        requireUnchanged(seen);
        repository.deleteDraft(seen.draft());
        live.floorMoves();
    }

    /** Goes back to the plan that holds. */
    @Transactional
    public void discard(Stand seen) {
        requireUnchanged(seen);
        repository.deleteDrafts();
        live.floorMoves();
    }

    /** Tells open pages to look again. */
    @Transactional
    public void refresh() {
        live.floorMoves();
    }

    /** @throws Refusal that says what another did meanwhile */
    void requireUnchanged(Stand seen) {
        Optional<Publication> publication = repository.publication();
        if (publication.isPresent() && publication.get().id() != seen.publication()) {
            throw new Refusal("%s has published a plan meanwhile: %s. Yours was not; look at what holds now, then repeat what is still needed."
                    .formatted(name(publication.get().by()), publication.get().what()));
        }
        Optional<Draft> draft = repository.draft();
        if (draft.map(Draft::id).orElse(0L) != seen.draft()) {
            throw new Refusal(draft.map(each -> "%s has gone on with the draft meanwhile: %s. Nothing was changed; look at what it is now, then repeat what is still needed."
                    .formatted(name(each.madeBy()), each.what())).orElse("The draft was taken back meanwhile. Nothing was changed; look at what holds now."));
        }
    }

    private static String name(String who) {
        return who.isEmpty() ? "The lab itself" : who;
    }
}
