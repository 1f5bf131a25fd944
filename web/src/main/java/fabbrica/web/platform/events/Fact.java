package fabbrica.web.platform.events;

import fabbrica.core.run.Defect;
import fabbrica.core.units.LengthUnit;
import java.time.Instant;
import java.util.List;
import java.util.Locale;
import org.jspecify.annotations.Nullable;

/** What can happen, with its values. What it happened to stands beside it; so do the words somebody wrote with it. */
public sealed interface Fact {

    /** The name under which it is stored; it is never changed. */
    default String kind() {
        return kind(getClass());
    }

    static String kind(Class<?> fact) {
        return fact.getSimpleName().replaceAll("(?<=.)([A-Z])", "-$1").toLowerCase(Locale.ROOT);
    }

    /** Whether somebody outside is to be told of it. */
    default boolean isTold() {
        return false;
    }

    /** Why a ticket left the queue. */
    enum Cause {
        SIZE("another size needs a new plan"), LYING("it lies another way and needs a new plan"),
        MODEL("another model needs a new plan"), WITHDRAWN("its ticket was withdrawn"), TAKEN_BACK(""),
        MOVED("moved to another printer"), RELAID("laid anew with others, or apart from them");

        private final String label;

        Cause(String label) {
            this.label = label;
        }

        public String label() {
            return label;
        }
    }

    /** What the Stores hold. */
    enum Thing {
        LAB, HOURS, KEYHOLDER, PRINTER, NOZZLE, MATERIAL, SPOOL, MAINTENANCE;

        public String label() {
            return name().toLowerCase(Locale.ROOT);
        }
    }

    record HandedOver() implements Fact {
    }

    record TakenOut(long ofTicket) implements Fact {
    }

    record Resized(double percent, LengthUnit unit) implements Fact {
    }

    record Turned() implements Fact {
    }

    /** @param madeBy what was done to the model, a sentence */
    record Revised(String madeBy) implements Fact {
    }

    record Restored() implements Fact {
    }

    record Accepted() implements Fact {

        @Override
        public boolean isTold() {
            return true;
        }
    }

    record SentBack() implements Fact {

        @Override
        public boolean isTold() {
            return true;
        }
    }

    record Declined() implements Fact {

        @Override
        public boolean isTold() {
            return true;
        }
    }

    record Withdrawn() implements Fact {

        @Override
        public boolean isTold() {
            return true;
        }
    }

    record Reminded() implements Fact {

        @Override
        public boolean isTold() {
            return true;
        }
    }

    record PutAway() implements Fact {

        @Override
        public boolean isTold() {
            return true;
        }
    }

    /** @param price with its currency; so with the next two */
    record PriceAsked(String price) implements Fact {

        @Override
        public boolean isTold() {
            return true;
        }
    }

    record PriceAgreed(String price) implements Fact {
    }

    record Paid(String price) implements Fact {
    }

    record NeededBy(Instant by) implements Fact {
    }

    /** The member answered what was asked of her. */
    record Answered() implements Fact {
    }

    record Reopened() implements Fact {
    }

    /** @param copies of the ticket on the plate; seconds and grams are the plate's */
    record Queued(int copies, double seconds, double grams) implements Fact {
    }

    record LaidOut(int copies) implements Fact {
    }

    /** Of histories from before there was a floor plan. */
    record Reordered() implements Fact {
    }

    record LeftQueue(Cause cause) implements Fact {
    }

    /**
     * A floor plan was published by which a ticket can be collected.
     *
     * @param collect from then on, in four of five cases
     * @param before  what was told before; null when nothing was
     */
    record Promised(Instant collect, @Nullable Instant before) implements Fact {

        @Override
        public boolean isTold() {
            return true;
        }
    }

    record FloorPlanned() implements Fact {
    }

    record RunStarted() implements Fact {
    }

    /** @param checked whether the machine has read the same back */
    record FileSent(boolean checked) implements Fact {
    }

    /** @param why as the machine says it; so with the next but one */
    record RunPaused(String why) implements Fact {
    }

    record FirstLayerSeen() implements Fact {
    }

    record RunResumed() implements Fact {
    }

    record MachineHalted(String why) implements Fact {
    }

    /**
     * The machine is no longer at a run.
     *
     * @param whole whether it came to the file's end
     * @param layer that it came to, of how many
     */
    record MachineDone(boolean whole, int layer, int of) implements Fact {
    }

    /** @param end when it is expected now, later than promised */
    record RunDelayed(Instant end) implements Fact {
    }

    /** Nobody knows how a run goes on. */
    record MachineSilent(String why) implements Fact {
    }

    record MachineAnswers() implements Fact {
    }

    record StopPressed() implements Fact {
    }

    record MachineConnected() implements Fact {
    }

    record MachineDisconnected() implements Fact {
    }

    /**
     * How a ticket's copies ended in a run.
     *
     * @param well    of them, those that are only usable among them; failed, cancelled so too
     * @param seconds of the run, their share
     * @param grams   so too
     * @param done    how many came out well in all so far, of how many
     */
    record RunEnded(int well, int failed, int cancelled, long seconds, double grams, List<Defect> defects, int done, int of) implements Fact {

        @Override
        public boolean isTold() {
            return failed > 0 || done >= of;
        }
    }

    record OutcomeTakenBack() implements Fact {
    }

    record HandedOut() implements Fact {
    }

    record HandOutTakenBack() implements Fact {
    }

    record Added(Thing thing, String name) implements Fact {
    }

    record Changed(Thing thing, String name) implements Fact {
    }

    record Removed(Thing thing, String name) implements Fact {
    }

    /** @param until when it is expected to be ready again; null when nobody knows */
    record PutOutOfOrder(@Nullable Instant until) implements Fact {
    }

    record PutInOrder() implements Fact {
    }

    /** Of a printer that is new, was moved or repaired. */
    record FirstPrintWanted() implements Fact {
    }

    /** @param off how many things were not as they should be */
    record FirstPrintChecked(double minutes, double xMm, double yMm, double zMm, int off) implements Fact {
    }

    record NozzleMounted(long nozzle) implements Fact {
    }

    /** @param hours the printer has run by then */
    record MaintenanceDone(String what, double hours) implements Fact {
    }

    /** @param grams that it holds by the scales */
    record Weighed(double grams) implements Fact {
    }

    record Loaded() implements Fact {
    }

    record Unloaded() implements Fact {
    }

    record MemberAdded() implements Fact {
    }

    record MemberChanged() implements Fact {
    }

    /** @param twin that was another entry for the same person */
    record MemberMerged(long twin) implements Fact {
    }

    record MemberForgotten() implements Fact {
    }

    /** @param role as it is stored */
    record AccountOpened(String role) implements Fact {
    }

    record AccountClosed() implements Fact {
    }

    record AccountReopened() implements Fact {
    }

    record PasswordReset() implements Fact {
    }

    /** A line of a history from before facts were typed. */
    record Earlier(String what) implements Fact {
    }
}
