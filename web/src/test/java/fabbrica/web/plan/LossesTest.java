package fabbrica.web.plan;

import static org.assertj.core.api.Assertions.assertThat;
import static org.mockito.Mockito.mock;
import static org.mockito.Mockito.when;

import fabbrica.core.mesh.model.Rotation;
import fabbrica.core.recipe.BuiltIn;
import fabbrica.core.recipe.Spool;
import fabbrica.core.recipe.StartingPoint;
import fabbrica.core.units.LengthUnit;
import fabbrica.web.stores.StockSpool;
import fabbrica.web.ticket.Charge;
import fabbrica.web.ticket.Purpose;
import fabbrica.web.ticket.StoredModel;
import fabbrica.web.ticket.Ticket;
import fabbrica.web.ticket.Ticket.Request;
import fabbrica.web.ticket.TicketState;
import java.time.Instant;
import java.util.List;
import org.jspecify.annotations.Nullable;
import org.junit.jupiter.api.Test;

class LossesTest {

    private static String losses(@Nullable Purpose purpose, String material, String colour, StartingPoint chosen, @Nullable StockSpool spool) {
        Ticket ticket = new Ticket(9, mock(StoredModel.class), TicketState.ACCEPTED, new Request(null, purpose, null, material, colour, 1, "", ""),
                LengthUnit.MILLIMETRE, 100, Rotation.NONE, null, null, Instant.EPOCH, Charge.NONE, "");
        return Losses.of(ticket, chosen, spool, List.of(BuiltIn.PLA, BuiltIn.PETG));
    }

    private static StockSpool green() {
        StockSpool spool = mock();
        Spool pla = mock();
        when(spool.spool()).thenReturn(pla);
        when(pla.materialId()).thenReturn("pla");
        when(pla.colour()).thenReturn("bottle green");
        return spool;
    }

    @Test
    void nothing_is_lost_where_purpose_material_and_colour_agree_or_nothing_is_wished() {
        assertThat(losses(null, "", "", StartingPoint.DAILY_BREAD, green())).isEmpty();
        assertThat(losses(Purpose.EVERYDAY, "PLA", "Green", StartingPoint.DAILY_BREAD, green())).isEmpty();
        assertThat(losses(Purpose.EVERYDAY, "PETG", "smoke", StartingPoint.DAILY_BREAD, null)).as("no spool is chosen yet").isEmpty();
    }

    @Test
    void another_starting_point_material_or_colour_is_named() {
        assertThat(losses(Purpose.EVERYDAY, "PETG", "", StartingPoint.DAILY_BREAD, green())).isEqualTo("it was wished in PETG");
        assertThat(losses(Purpose.EVERYDAY, "PETG", "smoke", StartingPoint.DAILY_BREAD, green())).isEqualTo("it was wished in PETG smoke");
        StartingPoint own = Purpose.DISPLAY.startingPoint();
        assertThat(losses(Purpose.DISPLAY, "", "sand", StartingPoint.DAILY_BREAD, green()))
                .isEqualTo("its purpose asks for “%s”: %s; it was wished in sand", own.label(), own.purpose());
    }
}
