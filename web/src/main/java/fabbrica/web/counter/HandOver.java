package fabbrica.web.counter;

import fabbrica.core.recipe.Part;
import fabbrica.core.units.LengthUnit;
import java.time.Instant;
import java.util.List;
import org.jspecify.annotations.Nullable;

/** A file as it came over the counter, with the models found in it. */
public record HandOver(long id, String name, Instant createdAt, List<Piece> pieces) {

    HandOver with(List<Piece> found) {
        return new HandOver(id, name, createdAt, found);
    }

    /**
     * One model of a hand-over.
     *
     * @param problem    why it cannot be read; null when it can
     * @param part       null when its file is no longer kept; else as drawn, in the unit the file declares, else millimetres
     * @param ticketId   the ticket opened for it; null when there is none yet
     */
    public record Piece(long modelId, String name, @Nullable String problem, @Nullable Part part, LengthUnit unit, @Nullable Long ticketId) {

        public boolean isOpen() {
            return problem == null && ticketId == null && part != null;
        }
    }
}
