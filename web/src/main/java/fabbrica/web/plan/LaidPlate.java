package fabbrica.web.plan;

import fabbrica.core.gcode.GcodeFile;
import fabbrica.core.recipe.Plate;
import fabbrica.core.recipe.Printer;
import java.time.Instant;
import java.util.List;
import java.util.Locale;
import java.util.Objects;
import org.jspecify.annotations.Nullable;

/**
 * A plate of the lab: what lies on one bed in one run.
 *
 * @param place     in its printer's queue; those with less come first
 * @param startedAt  null unless it is printing
 * @param expectedAt when its machine expects to be done; null while there is only the promise
 * @param promise   null until it was queued
 * @param published where it is in the floor plan that holds; null while it is in none
 */
public record LaidPlate(long id, Plan plan, Plate.Sequence sequence, State state, double place, Instant madeAt, @Nullable Instant queuedAt,
                        @Nullable Instant startedAt, @Nullable Instant expectedAt, List<LaidCopy> copies, @Nullable Promise promise, @Nullable PublishedSlot published) {

    /** Where a plate is; the names are stored. */
    public enum State {
        DRAFT("being laid"), QUEUED("waits for its printer"), RUNNING("printing"), ENDED("printed"), DISSOLVED("taken apart");

        private final String label;

        State(String label) {
            this.label = label;
        }

        public String label() {
            return label;
        }
    }

    /**
     * A copy on the plate.
     *
     * @param nth    its place in the order, from 1
     * @param model  the name of its ticket's model
     * @param member the name of its ticket's member; may be empty
     */
    public record LaidCopy(long id, long ticketId, int nth, Plate.Copy copy, String model, String member) {
    }

    /**
     * A place in the floor plan that holds.
     *
     * @param pinned whether it starts then, whatever else happens
     */
    public record PublishedSlot(String printerId, Instant start, Instant end, Instant handOut, boolean pinned) {
    }

    public LaidPlate {
        copies = List.copyOf(copies);
    }

    /** With other copies, under another number, in no plan yet. */
    public LaidPlate with(long otherId, List<LaidCopy> others) {
        return new LaidPlate(otherId, plan, sequence, state, place, madeAt, queuedAt, startedAt, expectedAt, others, promise, null);
    }

    /** As it is printed. */
    public Plate plate() {
        return new Plate(copies.stream().map(LaidCopy::copy).toList(), sequence, plan.recipe());
    }

    public List<Long> tickets() {
        return copies.stream().map(LaidCopy::ticketId).distinct().toList();
    }

    public boolean isDraft() {
        return state == State.DRAFT;
    }

    public boolean waits() {
        return state == State.QUEUED;
    }

    public boolean isOpen() {
        return state == State.DRAFT || state == State.QUEUED;
    }

    /** Whether it is not printed yet and all on it is a ticket's own. */
    boolean isOwnOf(long ticketId) {
        return isOpen() && tickets().equals(List.of(ticketId));
    }

    /** When it should be printed, by its machine or else by its promise; null unless it is printing. */
    public @Nullable Instant until() {
        return expectedAt != null ? expectedAt : startedAt == null || promise == null ? null : startedAt.plus(promise.takes());
    }

    /** How it is printed as it waits. */
    public Way way() {
        return Way.of(Objects.requireNonNull(promise), plan.printerId(), plan.spoolId());
    }

    /** By which people know it: the model when there is one, else how many there are. */
    public String name() {
        List<String> models = copies.stream().map(LaidCopy::model).distinct().toList();
        String count = copies.size() == 1 ? "" : "%d × ".formatted(copies.size());
        return models.size() == 1 ? count + models.getFirst() : "%d parts of %d tickets".formatted(copies.size(), tickets().size());
    }

    /** Whose it is, as far as it is one's. */
    public String member() {
        List<String> members = copies.stream().map(LaidCopy::member).distinct().toList();
        return members.size() == 1 ? members.getFirst() : "%d members".formatted(members.size());
    }

    /** Of its file for a printer, as somebody would read it aloud. */
    public String fileName(Printer printer) {
        return GcodeFile.name(tickets().size() == 1 ? "Ticket %d".formatted(tickets().getFirst()) : "Plate %d".formatted(id), name().replace("×", "x"), printer);
    }

    /** In lower case, for classes of pages. */
    public String code() {
        return state.name().toLowerCase(Locale.ROOT);
    }
}
