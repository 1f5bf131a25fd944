package fabbrica.web.platform.events;

import fabbrica.core.run.Defect;
import fabbrica.core.units.Spoken;
import java.time.Instant;
import java.util.stream.Collectors;
import java.util.stream.Stream;

/**
 * Something that happened.
 *
 * @param by      the name by which whoever did it signs in; empty when nobody did
 * @param printer its name, where there is one; so with the spool's number
 * @param remark  what somebody wrote with it; may be empty
 */
public record Event(long id, Instant at, String by, About about, String printer, String spool, Fact fact, String remark) {

    /** In a few words, without who, when and why. */
    public String what() {
        return switch (fact) {
            case Fact.HandedOver() -> "handed over";
            case Fact.TakenOut(long ticket) -> "taken out of ticket no. " + ticket;
            case Fact.Resized(double percent, var unit) -> "size set to %s %%, read in %s".formatted(Spoken.number(percent, 2), unit.symbol());
            case Fact.Turned() -> "turned to lie another way";
            case Fact.Revised revised -> "model revised";
            case Fact.Restored() -> "went back to the model as it came";
            case Fact.Accepted() -> "accepted";
            case Fact.SentBack() -> "sent back";
            case Fact.Declined() -> "declined";
            case Fact.Withdrawn() -> "withdrawn";
            case Fact.Reminded() -> "reminded to collect it";
            case Fact.PutAway() -> "put away: nobody has collected it";
            case Fact.PriceAsked(String price) -> "asked whether %s is all right".formatted(price);
            case Fact.PriceAgreed(String price) -> "said yes to " + price;
            case Fact.Paid(String price) -> "%s paid".formatted(price);
            case Fact.NeededBy needed -> "needed at another time";
            case Fact.Answered() -> "answered by the member";
            case Fact.Reopened() -> "taken in again";
            case Fact.Queued(int copies, double seconds, double grams) -> "%s queued on %s, on a plate of %s and %s".formatted(
                    copies == 1 ? "1 copy" : copies + " copies", printer, Spoken.duration(seconds), Spoken.grams(grams));
            case Fact.LaidOut(int copies) -> "%s laid on plate no. %d".formatted(copies == 1 ? "1 copy" : copies + " copies", about.plate());
            case Fact.Reordered() -> "plate no. %d moved in the queue".formatted(about.plate());
            case Fact.LeftQueue(var cause) -> "taken out of the queue";
            case Fact.Promised(Instant collect, var before) -> before == null ? "promised by the floor plan" : "promised anew by the floor plan";
            case Fact.FloorPlanned() -> "floor plan published";
            case Fact.RunStarted() -> "run started on " + printer;
            case Fact.FileSent(boolean checked) -> checked ? "file put on %s, and read back the same".formatted(printer) : "file put on %s; it cannot read it back".formatted(printer);
            case Fact.RunPaused(String why) -> "%s paused: %s".formatted(printer, why);
            case Fact.FirstLayerSeen() -> "first layer seen on " + printer;
            case Fact.RunResumed() -> printer + " goes on";
            case Fact.MachineHalted(String why) -> "%s stopped everything: %s".formatted(printer, why);
            case Fact.MachineDone(boolean whole, int layer, int of) -> whole ? printer + " is done with it" : "%s broke off at layer %d of %d".formatted(printer, layer, of);
            case Fact.RunDelayed(Instant end) -> printer + " takes longer than promised";
            case Fact.MachineSilent(String why) -> "%s says nothing: %s".formatted(printer, why);
            case Fact.MachineAnswers() -> printer + " answers again";
            case Fact.StopPressed() -> "emergency stop pressed for " + printer;
            case Fact.MachineConnected() -> "machine of %s connected".formatted(printer);
            case Fact.MachineDisconnected() -> "machine of %s disconnected".formatted(printer);
            case Fact.RunEnded ended -> ended.of() == 1 ? ended.well() == 1 ? "run done" : ended.failed() == 1 ? "run failed" : "run cancelled"
                    : "run ended: %s; %d of %d done".formatted(Stream.of(ended.well() == 0 ? "" : ended.well() + " well",
                            ended.failed() == 0 ? "" : ended.failed() + " failed", ended.cancelled() == 0 ? "" : ended.cancelled() + " cancelled")
                            .filter(part -> !part.isEmpty()).collect(Collectors.joining(", ")), ended.done(), ended.of());
            case Fact.OutcomeTakenBack() -> "outcome taken back";
            case Fact.HandedOut() -> "handed out";
            case Fact.HandOutTakenBack() -> "hand-out taken back";
            case Fact.Added(var thing, String name) -> "%s %s added".formatted(thing.label(), name).strip();
            case Fact.Changed(var thing, String name) -> "%s %s changed".formatted(thing.label(), name).strip();
            case Fact.Removed(var thing, String name) -> "%s %s removed".formatted(thing.label(), name).strip();
            case Fact.PutOutOfOrder put -> printer + " put out of order";
            case Fact.PutInOrder() -> printer + " put in order again";
            case Fact.FirstPrintWanted() -> "first print of %s to be checked".formatted(printer);
            case Fact.FirstPrintChecked(double minutes, double x, double y, double z, int off) -> "first print of %s: %s in %s min, %s".formatted(printer, Spoken.size(x, y, z),
                    Spoken.number(minutes, 0), off == 0 ? "true" : off == 1 ? "one thing off" : off + " things off");
            case Fact.NozzleMounted(long nozzle) -> "nozzle %d put into %s".formatted(nozzle, printer);
            case Fact.MaintenanceDone(String what, double hours) -> "%s on %s, at %s hours".formatted(what, printer, Spoken.number(hours, 0));
            case Fact.Weighed(double grams) -> "spool %s weighed: %s left".formatted(spool, Spoken.grams(grams));
            case Fact.Loaded() -> "spool %s put into %s".formatted(spool, printer);
            case Fact.Unloaded() -> "spool %s taken out of %s".formatted(spool, printer);
            case Fact.MemberAdded() -> "member no. %d added".formatted(about.member());
            case Fact.MemberChanged() -> "member no. %d changed".formatted(about.member());
            case Fact.MemberMerged(long twin) -> "member no. %d is the same person as no. %d".formatted(twin, about.member());
            case Fact.MemberForgotten() -> "member no. %d forgotten".formatted(about.member());
            case Fact.AccountOpened(String role) -> "account no. %d opened: %s".formatted(about.account(), role.toLowerCase());
            case Fact.AccountClosed() -> "account no. %d closed".formatted(about.account());
            case Fact.AccountReopened() -> "account no. %d opened again".formatted(about.account());
            case Fact.PasswordReset() -> "password of account no. %d reset".formatted(about.account());
            case Fact.Earlier(String what) -> what;
        };
    }

    /** Why, as far as somebody said or the values tell; may be empty. */
    public String why() {
        String told = switch (fact) {
            case Fact.Revised(String madeBy) -> madeBy;
            case Fact.LeftQueue(var cause) -> cause.label();
            case Fact.RunEnded ended -> ended.defects().stream().map(Defect::label).map(String::toLowerCase).collect(Collectors.joining(", "));
            default -> "";
        };
        return told.isEmpty() || remark.isEmpty() ? told + remark : told + "; " + remark;
    }
}
