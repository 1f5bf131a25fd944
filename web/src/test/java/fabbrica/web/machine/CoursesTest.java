package fabbrica.web.machine;

import static org.assertj.core.api.Assertions.assertThat;
import static org.mockito.ArgumentMatchers.anyLong;
import static org.mockito.Mockito.mock;
import static org.mockito.Mockito.times;
import static org.mockito.Mockito.verify;
import static org.mockito.Mockito.when;

import fabbrica.core.recipe.BuiltIn;
import fabbrica.web.platform.storage.FileStore;
import fabbrica.web.stores.Inventory;
import fabbrica.web.stores.StockPrinter;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.util.Optional;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;

class CoursesTest {

    private static final MachineFile FILE = MachineFile.carried("door", 3, "mark");

    private final Inventory inventory = mock(Inventory.class);
    private final CarriedFiles carried = mock(CarriedFiles.class);
    private final Courses courses = new Courses(inventory, mock(FileStore.class), carried);

    @BeforeEach
    void aPrinter() {
        StockPrinter printer = mock(StockPrinter.class);
        when(printer.printer()).thenReturn(BuiltIn.printer("standard").orElseThrow());
        when(inventory.printer("door")).thenReturn(Optional.of(printer));
    }

    @Test
    void what_a_file_takes_is_worked_out_once() throws IOException {
        when(carried.content(3)).thenReturn("G28\nG1 X50 F6000\n".getBytes(StandardCharsets.UTF_8));
        assertThat(courses.of(FILE)).isPresent();
        assertThat(courses.of(FILE)).isEqualTo(courses.of(FILE));
        verify(carried, times(1)).content(3);
    }

    /** By hand it is asked for every second. */
    @Test
    void a_file_that_cannot_be_read_is_not_tried_again_and_again() throws IOException {
        when(carried.content(anyLong())).thenThrow(new IOException("line 3: no such axis"));
        assertThat(courses.of(FILE)).isEmpty();
        assertThat(courses.of(FILE)).isEmpty();
        verify(carried, times(1)).content(3);
    }
}
