package fabbrica.web.ticket;

import fabbrica.core.mesh.model.Rotation;
import fabbrica.core.recipe.Recipe;
import fabbrica.core.recipe.StartingPoint;
import fabbrica.core.units.LengthUnit;
import fabbrica.web.platform.Lying;
import fabbrica.web.platform.Refusal;
import java.time.Instant;

/**
 * One member's request.
 *
 * @param memberId      null until somebody is named
 * @param purpose       null until chosen
 * @param neededBy      null when there is no hurry
 * @param scalePercent  100 prints the part as drawn
 * @param rotation      from how the part was drawn to how it lies
 * @param recipe        null until the ticket is planned
 * @param fresh         whether its printer may skip levelling and flow calibration
 * @param promisedS     seconds of one copy, as planned
 * @param queuedAt      when it was sent to its printer; null before
 */
public record Ticket(long id, StoredModel model, TicketState state, Request request, LengthUnit unit,
                     double scalePercent, Rotation rotation, String printerId, Long spoolId, StartingPoint startingPoint, Recipe recipe,
                     boolean fresh, double promisedS, double promisedG, Instant queuedAt, Instant createdAt) {

    /** What the member asks for. */
    public record Request(Long memberId, Purpose purpose, Instant neededBy, String materialWish, String colourWish,
                          int quantity, String source, String designerNotes) {

        /** The same request by another member. */
        Request of(long otherMember) {
            return new Request(otherMember, purpose, neededBy, materialWish, colourWish, quantity, source, designerNotes);
        }
    }

    /**
     * The part as it lies on the bed.
     *
     * @throws Refusal when its model is no longer kept
     */
    public Lying lying() {
        if (!model.isKept()) {
            throw new Refusal("The file of this model is no longer kept. What is left of the ticket is its history.");
        }
        return new Lying(model.sha256(), unit.millimetres() * scalePercent / 100, rotation);
    }

    /** The same ticket with another model. */
    public Ticket with(StoredModel other) {
        return new Ticket(id, other, state, request, unit, scalePercent, rotation, printerId, spoolId, startingPoint, recipe,
                fresh, promisedS, promisedG, queuedAt, createdAt);
    }

    /** The same ticket with its part lying another way. */
    public Ticket turned(Rotation other) {
        return new Ticket(id, model, state, request, unit, scalePercent, other, printerId, spoolId, startingPoint, recipe,
                fresh, promisedS, promisedG, queuedAt, createdAt);
    }

    /** The same ticket with its part at another scale. */
    public Ticket scaled(double percent) {
        return new Ticket(id, model, state, request, unit, percent, rotation, printerId, spoolId, startingPoint, recipe,
                fresh, promisedS, promisedG, queuedAt, createdAt);
    }

    public boolean isPlanned() {
        return recipe != null && printerId != null && spoolId != null;
    }

    /** How it is printed, once it is planned. */
    public Plan plan() {
        return new Plan(startingPoint, recipe, printerId, spoolId, fresh);
    }
}
