package fabbrica.web.ticket;

import fabbrica.core.inspect.Inspection;
import fabbrica.core.recipe.Recipe;
import fabbrica.core.recipe.StartingPoint;
import fabbrica.core.units.LengthUnit;
import java.time.Instant;

/**
 * One member's request.
 *
 * @param memberId      null until somebody is named
 * @param purpose       null until chosen
 * @param neededBy      null when there is no hurry
 * @param scalePercent  100 prints the part as drawn
 * @param recipe        null until the ticket is planned
 * @param promisedS     seconds of one copy, as planned
 * @param queuedAt      when it was sent to its printer; null before
 */
public record Ticket(long id, StoredModel model, TicketState state, Request request, LengthUnit unit,
                     double scalePercent, String printerId, Long spoolId, StartingPoint startingPoint, Recipe recipe,
                     double promisedS, double promisedG, Instant queuedAt, Instant createdAt) {

    /** What the member asks for. */
    public record Request(Long memberId, Purpose purpose, Instant neededBy, String materialWish, String colourWish,
                          int quantity, String source, String designerNotes) {
    }

    /** From the file's numbers to millimetres. */
    public double factor() {
        return unit.millimetres() * scalePercent / 100;
    }

    public Inspection inspection() {
        return model.inspection().scaled(factor());
    }

    public boolean isPlanned() {
        return recipe != null && printerId != null && spoolId != null;
    }
}
