package fabbrica.web.ticket;

import static org.mockito.ArgumentMatchers.any;
import static org.mockito.Mockito.RETURNS_DEEP_STUBS;
import static org.mockito.Mockito.mock;
import static org.mockito.Mockito.when;
import static org.springframework.test.web.servlet.request.MockMvcRequestBuilders.get;
import static org.springframework.test.web.servlet.result.MockMvcResultMatchers.flash;
import static org.springframework.test.web.servlet.result.MockMvcResultMatchers.view;

import fabbrica.web.account.Members;
import fabbrica.web.platform.storage.FileStore;
import java.util.List;
import org.junit.jupiter.api.Test;
import org.springframework.test.web.servlet.setup.MockMvcBuilders;
import org.springframework.transaction.support.TransactionTemplate;

class TicketControllerTest {

    @Test
    void what_a_step_has_told_outlives_the_wait_until_the_part_is_measured() throws Exception {
        Ticket ticket = mock(Ticket.class, RETURNS_DEEP_STUBS);
        when(ticket.model().isKept()).thenReturn(true);
        Tickets tickets = mock(Tickets.class);
        when(tickets.ticket(7)).thenReturn(ticket);
        Verdicts verdicts = mock(Verdicts.class);
        when(verdicts.ready(any())).thenReturn(false);
        MockMvcBuilders.standaloneSetup(new TicketController(tickets, verdicts, mock(Acceptance.class), mock(Members.class), mock(PartDrawing.class),
                mock(RequestForm.class), mock(Enclosures.class), mock(Charges.class), mock(FileStore.class), List.of(), mock(TransactionTemplate.class))).build()
                .perform(get("/tickets/7").flashAttr("told", "Repaired."))
                .andExpect(view().name("ticket/measuring")).andExpect(flash().attribute("told", "Repaired."));
    }
}
