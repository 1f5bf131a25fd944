package fabbrica.web.ticket;

import fabbrica.core.mesh.io.ModelFormat;
import fabbrica.core.mesh.model.Rotation;
import fabbrica.core.recipe.Part;
import fabbrica.core.units.LengthUnit;
import fabbrica.web.platform.Refusal;
import java.time.Instant;
import org.jspecify.annotations.Nullable;

/**
 * One member's request.
 *
 * @param scalePercent 100 prints the part as drawn
 * @param rotation     from how the part was drawn to how it lies
 * @param planId       how it was planned last; null until it is
 * @param plannedOn    the printer of that plan; null until there is one
 */
public record Ticket(long id, StoredModel model, TicketState state, Request request, LengthUnit unit, double scalePercent, Rotation rotation,
                     @Nullable Long planId, @Nullable String plannedOn, Instant createdAt, Charge charge, String shelf) {

    /**
     * What the member asks for.
     *
     * @param memberId null until somebody is named
     * @param purpose  null until chosen
     * @param neededBy null when there is no hurry
     */
    public record Request(@Nullable Long memberId, @Nullable Purpose purpose, @Nullable Instant neededBy, String materialWish, String colourWish,
                          int quantity, String source, String designerNotes) {

        /** The same request by another member. */
        public Request of(@Nullable Long otherMember) {
            return new Request(otherMember, purpose, neededBy, materialWish, colourWish, quantity, source, designerNotes);
        }
    }

    /** Whether its file was sliced elsewhere: it is printed as it is, and where it is laid. */
    public boolean isSliced() {
        return model.format() == ModelFormat.GCODE;
    }

    /** @throws Refusal when its file was sliced elsewhere, so that its part can be neither turned nor scaled nor mended */
    public Ticket shaped() {
        if (isSliced()) {
            throw new Refusal("This file was sliced already and is printed as it is. Bring the model it was made from to change it.");
        }
        return this;
    }

    /**
     * The part as it lies on the bed.
     *
     * @throws Refusal when its model is no longer kept
     */
    public Part part() {
        if (!model.isKept()) {
            throw new Refusal("The file of this model is no longer kept. What is left of the ticket is its history.");
        }
        return isSliced() ? new Part(model.kept(), 1, Rotation.NONE) : new Part(model.kept(), unit.millimetres() * scalePercent / 100, rotation);
    }

    /** The same ticket with another model. */
    public Ticket with(StoredModel other) {
        return new Ticket(id, other, state, request, unit, scalePercent, rotation, planId, plannedOn, createdAt, charge, shelf);
    }

    /** The same ticket with its part lying another way. */
    public Ticket turned(Rotation other) {
        return new Ticket(id, model, state, request, unit, scalePercent, other, planId, plannedOn, createdAt, charge, shelf);
    }

    /** The same ticket with its part at another scale. */
    public Ticket scaled(double percent) {
        return new Ticket(id, model, state, request, unit, percent, rotation, planId, plannedOn, createdAt, charge, shelf);
    }
}
