package fabbrica.web.floor;

import static org.mockito.ArgumentMatchers.any;
import static org.mockito.Mockito.mock;
import static org.mockito.Mockito.never;
import static org.mockito.Mockito.verify;

import fabbrica.web.platform.events.About;
import fabbrica.web.platform.events.Fact;
import fabbrica.web.platform.events.Happened;
import fabbrica.web.stores.Inventory;
import org.junit.jupiter.api.Test;

class MendingTest {

    private final Drafting drafting = mock(Drafting.class);
    private final Mending mending = new Mending(drafting, mock(Inventory.class));

    @Test
    void a_printer_whose_first_print_is_to_be_checked_upsets_the_plan() {
        mending.mend(new Happened(new Fact.FirstPrintWanted(), About.printer("bench")));
        verify(drafting).mend("the first print of a printer is to be checked");
    }

    @Test
    void one_that_is_in_order_again_does_not() {
        mending.mend(new Happened(new Fact.FirstPrintChecked(21, 10, 10, 10, 0), About.printer("bench")));
        verify(drafting, never()).mend(any());
    }
}
