package fabbrica.web.plan;

import static fabbrica.web.Steps.open;
import static org.assertj.core.api.Assertions.assertThat;
import static org.hamcrest.Matchers.allOf;
import static org.hamcrest.Matchers.containsString;
import static org.springframework.test.web.servlet.result.MockMvcResultMatchers.content;

import fabbrica.core.mesh.model.Shapes;
import fabbrica.web.DemoLabTest;
import fabbrica.web.Steps;
import fabbrica.web.plan.Shopping.Item;
import fabbrica.web.plan.Shopping.Want;
import fabbrica.web.stores.SpoolEntry;
import fabbrica.web.stores.Spools;
import fabbrica.web.stores.StockSpool;
import java.util.List;
import java.util.Optional;
import org.junit.jupiter.api.Test;
import org.springframework.beans.factory.annotation.Autowired;
import org.springframework.test.web.servlet.MockMvc;

/** The lab leaves 5 g on each spool; a box of this size takes some 10 g. */
@DemoLabTest
class ShoppingTest {

    @Autowired
    private MockMvc mvc;
    @Autowired
    private Shopping shopping;
    @Autowired
    private Spools spools;
    @Autowired
    private Steps steps;

    @Test
    void what_is_almost_gone_runs_low() throws Exception {
        assertThat(item("lilac").orElseThrow().want()).isEqualTo(Want.LOW);
        mvc.perform(open("/stores/shopping")).andExpect(content().string(allOf(containsString("lilac"), containsString("◆ runs low"))));
        assertThat(item("sand")).as("plenty, and little of it is needed").isEmpty();
    }

    @Test
    void what_waits_and_cannot_be_printed_from_what_is_there_is_to_be_bought() {
        long spool = spool("alder", 800);
        steps.queued(Shapes.box(40, 40, 20), 1, steps.printer(), spool);
        assertThat(item("alder")).isEmpty();
        weighed(spool, 8);
        Item alder = item("alder").orElseThrow();
        assertThat(alder.want()).isEqualTo(Want.BUY);
        assertThat(alder.thereG()).isEqualTo(3);
        assertThat(alder.neededG()).isGreaterThan(5);
        assertThat(alder.spoken()).startsWith("■ buy: ").endsWith(" more are needed than are there");
    }

    @Test
    void what_is_there_on_another_spool_is_not_bought_but_moved() {
        long spool = spool("heather", 800);
        steps.queued(Shapes.box(40, 40, 20), 1, steps.printer(), spool);
        weighed(spool, 8);
        spool("heather", 800);
        assertThat(item("heather").orElseThrow().want()).isEqualTo(Want.SPREAD);
    }

    private Optional<Item> item(String colour) {
        List<Item> items = shopping.list();
        return items.stream().filter(item -> item.colour().equals(colour)).findFirst();
    }

    private long spool(String colour, double grams) {
        return spools.add(SpoolEntry.fresh("pla", colour, grams, 20, null), grams, "mira");
    }

    private void weighed(long id, double grams) {
        StockSpool seen = spools.spool(id).orElseThrow();
        spools.change(seen, new SpoolEntry(seen.number(), "pla", seen.spool().colour(), "", seen.netG(), null, 1.75, "", seen.spool().pricePerKg(), null, null,
                false), grams, "weighed", "mira");
    }
}
