package fabbrica.web.platform;

import static fabbrica.web.Steps.open;
import static org.assertj.core.api.Assertions.assertThat;
import static org.hamcrest.Matchers.allOf;
import static org.hamcrest.Matchers.containsString;
import static org.springframework.test.web.servlet.result.MockMvcResultMatchers.content;

import com.google.zxing.BinaryBitmap;
import com.google.zxing.RGBLuminanceSource;
import com.google.zxing.common.HybridBinarizer;
import com.google.zxing.qrcode.QRCodeReader;
import fabbrica.core.mesh.model.Shapes;
import fabbrica.web.DemoLabTest;
import fabbrica.web.Steps;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import java.util.stream.IntStream;
import org.junit.jupiter.api.Test;
import org.springframework.beans.factory.annotation.Autowired;
import org.springframework.test.web.servlet.MockMvc;

/** Labels and sheets, and the codes on them as a camera reads them (with the reader of the ZXing library, which the drawing does not use). */
@DemoLabTest
class PaperTest {

    private static final Pattern CELL = Pattern.compile("M(\\d+) (\\d+)h1v1h-1z");
    private static final int PIXELS = 8;

    @Autowired
    private MockMvc mvc;
    @Autowired
    private Steps steps;

    private String read(String page) throws Exception {
        List<int[]> cells = new ArrayList<>();
        Matcher cell = CELL.matcher(page);
        int size = 0;
        while (cell.find()) {
            cells.add(new int[] {Integer.parseInt(cell.group(1)), Integer.parseInt(cell.group(2))});
            size = Math.max(size, Math.max(cells.getLast()[0], cells.getLast()[1]) + 3);
        }
        int width = size * PIXELS;
        int[] pixels = new int[width * width];
        Arrays.fill(pixels, 0xFFFFFFFF);
        cells.forEach(at -> IntStream.range(0, PIXELS * PIXELS).forEach(i -> pixels[(at[1] * PIXELS + i / PIXELS) * width + at[0] * PIXELS + i % PIXELS] = 0xFF000000));
        return new QRCodeReader().decode(new BinaryBitmap(new HybridBinarizer(new RGBLuminanceSource(width, width, pixels)))).getText();
    }

    private String page(String address) throws Exception {
        return mvc.perform(open(address)).andReturn().getResponse().getContentAsString();
    }

    @Test
    void the_code_on_a_label_leads_to_its_ticket_or_its_spool() throws Exception {
        assertThat(read(page("/tickets/43/label"))).isEqualTo("http://localhost/tickets/43");
        assertThat(page("/tickets/43/label")).contains("no. 43", "key-tag.stl", "12 copies");
        long spool = steps.spool("pla", 300);
        assertThat(read(page("/stores/spools/" + spool + "/label"))).isEqualTo("http://localhost/stores/spools/" + spool);
    }

    @Test
    void a_start_sheet_has_the_checklist_to_tick_and_the_cautions() throws Exception {
        long plate = steps.queued(Shapes.box(20, 20, 6), 1, steps.printer(), steps.spool("pla", 300));
        mvc.perform(open("/floor/start/" + plate + "/sheet")).andExpect(content().string(allOf(containsString("☐ The last print is off"), containsString("fire risk"),
                containsString("manual"))));
        assertThat(read(page("/floor/start/" + plate + "/sheet"))).endsWith("/floor/start/" + plate);
        steps.started(plate);
        mvc.perform(open("/floor/start/" + plate + "/sheet")).andExpect(content().string(containsString("is not waiting for its printer")));
    }
}
