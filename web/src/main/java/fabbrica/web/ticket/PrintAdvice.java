package fabbrica.web.ticket;

import fabbrica.core.inspect.Inspection;
import fabbrica.core.inspect.PrintLimits;
import fabbrica.core.judge.AdhesionAdvice;
import fabbrica.core.judge.SupportAdvice;
import fabbrica.core.recipe.Adhesion;
import fabbrica.core.recipe.DesignerNotes;
import fabbrica.core.units.Spoken;
import java.util.ArrayList;
import java.util.List;

/**
 * What is recommended for a part, beside what its designer says.
 *
 * @param wanted   whether it is more than the usual
 * @param designer empty when the notes do not say
 * @param differs  whether the two contradict one another
 */
public record PrintAdvice(String what, String recommended, boolean wanted, String reason, String designer,
                          boolean differs) {

    private static final String SUPPORTS = "Supports";

    /** In the middle of a sentence that begins with "needs". */
    String needed() {
        return what.equals(SUPPORTS) ? "supports" : "a " + recommended;
    }

    static List<PrintAdvice> of(Ticket ticket, Inspection inspection, PrintLimits limits, boolean raftAlways) {
        DesignerNotes notes = DesignerNotes.of(ticket.request().designerNotes());
        List<PrintAdvice> advice = new ArrayList<>();
        SupportAdvice supports = SupportAdvice.of(inspection, limits);
        advice.add(new PrintAdvice(SUPPORTS, supports.wanted() ? "yes, as it lies" : "none", supports.wanted(), supports.reason(),
                notes.supports().map(wanted -> wanted ? "supports" : "no supports").orElse(""),
                notes.supports().isPresent() && notes.supports().get() != supports.wanted()));
        AdhesionAdvice hold = AdhesionAdvice.of(inspection.stand(), raftAlways);
        advice.add(new PrintAdvice("First layer", hold.adhesion().label(),
                hold.adhesion() == Adhesion.BRIM || hold.adhesion() == Adhesion.RAFT, hold.reason(),
                notes.adhesion().map(Adhesion::label).orElse(""),
                notes.adhesion().isPresent() && notes.adhesion().get() != hold.adhesion()));
        double layer = limits.layerHeightMm();
        notes.layerHeightMm().ifPresent(wanted -> advice.add(new PrintAdvice("Layer height",
                Spoken.number(layer, 2) + " mm", false, "Half the nozzle's bore.", Spoken.number(wanted, 2) + " mm",
                Math.abs(wanted - layer) > 0.011)));
        return advice;
    }
}
