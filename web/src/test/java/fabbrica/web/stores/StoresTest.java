package fabbrica.web.stores;

import static fabbrica.web.Steps.open;
import static fabbrica.web.Steps.send;
import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.tuple;
import static org.hamcrest.Matchers.allOf;
import static org.hamcrest.Matchers.containsString;
import static org.springframework.test.web.servlet.result.MockMvcResultMatchers.content;
import static org.springframework.test.web.servlet.result.MockMvcResultMatchers.redirectedUrl;
import static org.springframework.test.web.servlet.result.MockMvcResultMatchers.status;

import fabbrica.core.bed.Bed;
import fabbrica.core.estimate.Tariff;
import fabbrica.core.mesh.model.Shapes;
import fabbrica.core.recipe.Board;
import fabbrica.core.recipe.Nozzle;
import fabbrica.core.schedule.Calendar;
import fabbrica.core.schedule.Calendar.Hours;
import fabbrica.core.schedule.FloorView.Machine;
import fabbrica.web.DemoLabTest;
import fabbrica.web.Steps;
import fabbrica.web.platform.Seen;
import java.time.DayOfWeek;
import java.time.Duration;
import java.time.LocalDate;
import java.util.Collections;
import java.util.Map;
import java.util.UUID;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.concurrent.Future;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;
import org.springframework.beans.factory.annotation.Autowired;
import org.springframework.test.web.servlet.MockMvc;
import org.springframework.test.web.servlet.request.MockHttpServletRequestBuilder;

@DemoLabTest
class StoresTest {

    @Autowired
    private MockMvc mvc;
    @Autowired
    private Inventory inventory;
    @Autowired
    private Spools spools;
    @Autowired
    private Maintenance maintenance;
    @Autowired
    private Steps steps;

    @ParameterizedTest
    @ValueSource(strings = {"/stores", "/stores/printers/new", "/stores/printers/glass", "/stores/spools/new",
            "/stores/spools/1", "/stores/materials/new", "/stores/materials/pla", "/stores/nozzles/new",
            "/stores/nozzles/1", "/stores/lab/settings", "/stores/lab/hours", "/members", "/members/0", "/members/1", "/handbook",
            "/ledger", "/counter", "/floor"})
    void every_page_opens(String page) throws Exception {
        mvc.perform(open(page)).andExpect(status().isOk());
    }

    @Test
    void a_form_sent_ten_times_at_once_adds_one_spool() throws Exception {
        try (ExecutorService clicks = Executors.newFixedThreadPool(10)) {
            for (Future<?> click : clicks.invokeAll(Collections.nCopies(10, () -> mvc.perform(send("/stores/spools/new")
                    .param("materialId", "pla").param("colour", "mint").param("netG", "800").param("diameterMm", "1.75").param("pricePerKg", "20")
                    .param("token", "mint-form")).andReturn()))) {
                click.get();
            }
        }
        assertThat(spools.shelf()).filteredOn(spool -> spool.spool().colour().equals("mint")).hasSize(1);
    }

    @Test
    void an_old_form_does_not_give_back_grams_that_were_used_since() throws Exception {
        long id = spools.add(SpoolEntry.fresh("pla", "moss", 700, 20, null), 700, "mira");
        String seen = Seen.of(spools.spool(id).orElseThrow());
        spools.weigh(tared(id), 640, "mira");
        mvc.perform(send("/stores/spools/" + id).param("materialId", "pla").param("colour", "moss green").param("netG", "700").param("diameterMm", "1.75")
                .param("remainingG", "700").param("pricePerKg", "20").param("seen", seen)).andExpect(content().string(allOf(
                        containsString("It holds 450 g now."), containsString("moss green"))));
        assertThat(spools.spool(id).orElseThrow().spool().remainingG()).isEqualTo(450);
    }

    @Test
    void a_spool_that_is_lighter_than_its_empty_reel_is_not_believed() throws Exception {
        long id = spools.add(SpoolEntry.fresh("pla", "fern", 700, 20, null), 700, "mira");
        mvc.perform(send("/stores/spools/" + id + "/weigh").param("seen", Seen.of(tared(id))).param("grossG", "150"))
                .andExpect(content().string(containsString("The empty reel weighs 190 g; the scales cannot show less.")));
        assertThat(spools.spool(id).orElseThrow().spool().remainingG()).isEqualTo(700);
    }

    @Test
    void a_printer_that_prints_stays_and_it_is_said_what_to_do_instead() throws Exception {
        String busy = steps.printer();
        steps.started(steps.queued(Shapes.box(12, 12, 4), 1, busy, steps.spool("pla", 300)));
        mvc.perform(send("/stores/printers/" + busy + "/remove")).andExpect(content().string(containsString("Mark it out of order instead.")));
        assertThat(inventory.printer(busy)).isPresent();
    }

    @Test
    void more_than_a_spool_can_hold_is_questioned() throws Exception {
        long id = spools.add(SpoolEntry.fresh("pla", "coral", 700, 20, null), 700, "mira");
        mvc.perform(send("/stores/spools/" + id).param("materialId", "pla").param("colour", "coral").param("netG", "700").param("diameterMm", "1.75").param("remainingG", "900")
                .param("pricePerKg", "20")).andExpect(content().string(containsString("more than the spool held when it was new")));
        mvc.perform(send("/stores/spools/new").param("materialId", "pla").param("colour", "corals").param("netG", "25000").param("diameterMm", "1.75")
                .param("pricePerKg", "20")).andExpect(content().string(containsString("more than spools usually hold")));
        assertThat(spools.spool(id).orElseThrow().spool().remainingG()).isEqualTo(700);
    }

    @Test
    void a_spool_is_added_and_changed() throws Exception {
        mvc.perform(send("/stores/spools/new").param("materialId", "petg").param("colour", "teal").param("netG", "750").param("diameterMm", "1.75").param("place", "drawer 3")
                .param("lot", "L-7").param("tareG", "180").param("pricePerKg", "31,5").param("openedOn", "2026-02-03"))
                .andExpect(redirectedUrl("/stores"));
        StockSpool added = spools.shelf().stream().filter(spool -> spool.spool().colour().equals("teal"))
                .findFirst().orElseThrow();
        assertThat(added.spool().pricePerKg()).isEqualTo(31.5);
        mvc.perform(send("/stores/spools/" + added.id()).param("materialId", "petg").param("colour", "teal").param("netG", "750").param("diameterMm", "1.75").param("reason", "a tangle was cut off")
                .param("remainingG", "700").param("pricePerKg", "31.5").param("retired", "on"))
                .andExpect(redirectedUrl("/stores"));
        assertThat(spools.spool(added.id()).orElseThrow().retired()).isTrue();
        assertThat(spools.movements(added.id(), 9)).extracting(Movement::kind, Movement::grams, Movement::reason).containsExactly(
                tuple(Movement.Kind.CORRECTED, -50.0, "a tangle was cut off"), tuple(Movement.Kind.ADDED, 750.0, ""));
        assertThat(spools.shelf()).extracting(StockSpool::id).doesNotContain(added.id());
    }

    @Test
    void text_where_a_number_belongs_brings_the_form_back_as_it_was_filled_in() throws Exception {
        mvc.perform(send("/stores/spools/new").param("materialId", "pla").param("colour", "sky blue").param("netG", "1000").param("diameterMm", "1.75")
                .param("remainingG", "plenty").param("pricePerKg", "24")).andExpect(status().isOk())
                .andExpect(content().string(containsString("Grams left takes a number; “plenty” was given.")))
                .andExpect(content().string(containsString("sky blue")));
        assertThat(spools.shelf()).noneMatch(spool -> spool.spool().colour().equals("sky blue"));
    }

    @Test
    void a_printer_keeps_its_zones_and_its_numbers() throws Exception {
        StockPrinter glass = inventory.printer("glass").orElseThrow();
        mvc.perform(printerForm("/stores/printers/new", "Corner bench", "5 5 25 40\n200, 0, 220, 20"))
                .andExpect(redirectedUrl("/stores"));
        StockPrinter added = inventory.printer("corner-bench").orElseThrow();
        assertThat(added.printer().bed().keepOut()).containsExactlyInAnyOrder(new Bed.Zone(5, 5, 25, 40),
                new Bed.Zone(200, 0, 220, 20));
        assertThat(added.printer().kinematics().maxFlowMm3S()).isEqualTo(11);
        assertThat(added.limits().narrowestGapMm()).isEqualTo(0.4);
        assertThat(added.printer().preparation().flowS()).isEqualTo(90);
        assertThat(added.printer().preparation().changeS()).isEqualTo(95);
        assertThat(added.printer().kinematics().board()).isEqualTo(
                new Board(400, 300, 60, 3000, 1500, 80, 2500, 32, 600, 0.04));
        assertThat(added.raftAlways()).isTrue();
        assertThat(added.printer().materialIds()).containsExactly("pla");
        assertThat(glass.printer().bed().keepOut()).hasSize(1);
        mvc.perform(send("/stores/printers/corner-bench/remove")).andExpect(redirectedUrl("/stores"));
        assertThat(inventory.printer("corner-bench")).isEmpty();
    }

    @Test
    void impossible_values_of_a_printer_are_refused_with_the_allowed_range() throws Exception {
        mvc.perform(printerForm("/stores/printers/new", "Odd", "5 5")).andExpect(status().isOk())
                .andExpect(content().string(containsString("A keep-out zone takes four numbers")));
        assertThat(inventory.printer("odd")).isEmpty();
        mvc.perform(send("/stores/nozzles/new").param("bore", "40")).andExpect(status().isOk())
                .andExpect(content().string(containsString("Nozzle bore must be between 0.1 and 2 mm; 40 was given.")));
    }

    @Test
    void what_runs_refer_to_cannot_be_removed() throws Exception {
        mvc.perform(send("/stores/spools/1/remove")).andExpect(status().isUnprocessableContent())
                .andExpect(content().string(containsString("Mark it as taken off the shelf instead.")));
        mvc.perform(send("/stores/printers/door/remove")).andExpect(status().isUnprocessableContent());
        mvc.perform(send("/stores/materials/pla/remove")).andExpect(status().isUnprocessableContent());
        assertThat(inventory.printer("door")).isPresent();
    }

    @Test
    void the_scales_tell_what_is_left_once_the_empty_reel_is_known() throws Exception {
        long id = spools.add(SpoolEntry.fresh("pla", "fern", 700, 20, null), 700, "mira");
        mvc.perform(send("/stores/spools/" + id + "/weigh").param("grossG", "640")).andExpect(status().isUnprocessableContent())
                .andExpect(content().string(containsString("Say what the empty reel weighs first")));
        tared(id);
        mvc.perform(send("/stores/spools/" + id + "/weigh").param("grossG", "612,5")).andExpect(redirectedUrl("/stores/spools/" + id));
        assertThat(spools.spool(id).orElseThrow().spool().remainingG()).isEqualTo(422.5);
        mvc.perform(send("/stores/spools/" + id + "/weigh").param("grossG", "120")).andExpect(status().isUnprocessableContent());
        assertThat(spools.movements(id, 1)).extracting(Movement::kind, Movement::grams)
                .containsExactly(tuple(Movement.Kind.WEIGHED, -277.5));
    }

    @Test
    void a_printer_is_fed_by_one_spool_at_a_time() throws Exception {
        String printer = steps.printer();
        long first = steps.spool("pla", 500), second = steps.spool("pla", 500);
        mvc.perform(send("/stores/spools/" + first + "/load").param("printer", printer)).andExpect(status().isFound());
        mvc.perform(send("/stores/spools/" + second + "/load").param("printer", printer)).andExpect(status().isFound());
        assertThat(spools.spool(first).orElseThrow().loadedIn()).isNull();
        assertThat(spools.spool(second).orElseThrow().loadedIn()).isEqualTo(printer);
        mvc.perform(open("/stores/spools/" + second)).andExpect(content().string(containsString("Test bench")));
    }

    @Test
    void two_spools_do_not_have_one_number() throws Exception {
        int number = spools.shelf().getFirst().number();
        mvc.perform(send("/stores/spools/new").param("materialId", "pla").param("colour", "twin").param("netG", "500")
                .param("diameterMm", "1.75").param("pricePerKg", "20").param("number", Integer.toString(number)))
                .andExpect(content().string(containsString("Another spool has the number " + number + ".")));
    }

    @Test
    void hours_are_kept_by_weekday_with_breaks_and_special_days() throws Exception {
        mvc.perform(open("/stores/lab/hours")).andExpect(content().string(containsString("10:00-13:00, 14:00-20:00")));
        mvc.perform(hours("9:30-12:00; 13-17", "")).andExpect(content().string(containsString("Hours read like")));
        mvc.perform(hours("20:00-10:00", "")).andExpect(content().string(containsString("Hours begin before they end")));
        mvc.perform(hours("10:00-12:00, 11:00-17:00", "")).andExpect(content().string(containsString("with a break between")));
        mvc.perform(send("/stores/lab/hours")).andExpect(content().string(containsString("open on at least one day")));
        mvc.perform(hours("10:00-17:00", "tomorrow closed")).andExpect(content().string(containsString("A special day takes a date")));
        Calendar before = inventory.calendar();
        mvc.perform(hours("09:30-12:00, 13:00-24:00", "2027-01-01 closed New Year\n2027-01-02 12:00-15:00 stocktaking"))
                .andExpect(redirectedUrl("/stores"));
        Calendar now = inventory.calendar();
        assertThat(now.weekdays().get(DayOfWeek.MONDAY)).containsExactly(new Hours(570, 720), new Hours(780, 1440));
        assertThat(now.specialDays()).containsOnlyKeys(LocalDate.of(2027, 1, 1), LocalDate.of(2027, 1, 2));
        mvc.perform(open("/stores/lab/hours")).andExpect(content().string(containsString("2027-01-02 12:00-15:00 stocktaking")));
        mvc.perform(open("/stores")).andExpect(content().string(containsString("Mon 09:30-12:00, 13:00-24:00")));
        inventory.change(now, before, new CalendarText.Notes(Map.of()), "mira");
    }

    @Test
    void a_nozzle_is_in_one_printer_only_and_fits_it() throws Exception {
        mvc.perform(printerForm("/stores/printers/new", "Second home", "").with(request -> {
            request.setParameter("nozzleId", "1");
            return request;
        })).andExpect(status().isUnprocessableContent()).andExpect(content().string(containsString("That nozzle is in Window bench.")));
        mvc.perform(printerForm("/stores/printers/new", "Wrong thread", "").param("fitting", "long").with(request -> {
            request.setParameter("nozzleId", Long.toString(inventory.add(new Nozzle(0.4, false), "short", "", 0, "mira")));
            return request;
        })).andExpect(content().string(containsString("That nozzle has the fitting “short”; this printer takes “long”.")));
    }

    @Test
    void what_keeps_a_printer_going_comes_due_by_hours_and_days() throws Exception {
        String printer = steps.printer();
        String address = "/stores/printers/" + printer;
        mvc.perform(send(address + "/maintenance").param("what", "Oil the rods")).andExpect(status().isUnprocessableContent());
        mvc.perform(send(address + "/maintenance").param("what", "Oil the rods").param("everyHours", "100").param("everyDays", "365"))
                .andExpect(status().isFound());
        Maintenance.Due due = maintenance.due(printer).getFirst();
        assertThat(due.when()).isEqualTo("after 100 h of running, or in 365 days");
        MaintenanceTask task = due.task();
        assertThat(task.standing(95, task.lastAt())).isEqualTo(MaintenanceTask.Standing.SOON);
        assertThat(task.standing(101, task.lastAt())).isEqualTo(MaintenanceTask.Standing.OVERDUE);
        assertThat(task.standing(0, task.lastAt().plus(Duration.ofDays(366)))).isEqualTo(MaintenanceTask.Standing.OVERDUE);
        mvc.perform(send(address + "/maintenance/" + task.id() + "/done")).andExpect(status().isFound());
        mvc.perform(open(address)).andExpect(content().string(containsString("Oil the rods on Test bench, at 0 hours")));
        mvc.perform(send(address + "/maintenance/" + task.id() + "/remove")).andExpect(status().isFound());
        assertThat(maintenance.due(printer)).isEmpty();
    }

    @Test
    void a_printer_has_as_many_routines_as_a_plan_can_keep_apart() throws Exception {
        String printer = steps.printer();
        for (int i = 0; i < Machine.MOST_CHORES; i++) {
            maintenance.add(printer, Routine.USUAL.getFirst(), "mira");
        }
        mvc.perform(send("/stores/printers/" + printer + "/maintenance").param("usual", Routine.USUAL.getLast().what()))
                .andExpect(status().isUnprocessableContent()).andExpect(content().string(containsString("at most 31 routines")));
        assertThat(maintenance.due(printer)).hasSize(Machine.MOST_CHORES);
    }

    @Test
    void a_printer_is_out_of_order_for_a_reason_until_a_day() throws Exception {
        StockPrinter old = inventory.printer("old").orElseThrow();
        mvc.perform(printerForm("/stores/printers/old", "Old faithful", "").param("outOfOrder", "on").param("downReason", "belt torn")
                .param("downUntil", "2031-05-04T10:00")).andExpect(redirectedUrl("/stores"));
        mvc.perform(open("/stores")).andExpect(content().string(containsString("■ out of order: belt torn, until 4 May 10:00")));
        mvc.perform(open("/stores/printers/old")).andExpect(content().string(containsString("Old faithful put out of order")));
        inventory.change(inventory.printer("old").orElseThrow(), old, "mira");
        mvc.perform(open("/stores/printers/old")).andExpect(content().string(containsString("Old faithful put in order again")));
    }

    private StockSpool tared(long id) {
        StockSpool seen = spools.spool(id).orElseThrow();
        spools.change(seen, new SpoolEntry(seen.number(), seen.spool().materialId(), seen.spool().colour(), "", seen.netG(), 190.0, 1.75, "",
                seen.spool().pricePerKg(), null, null, false), seen.spool().remainingG(), "", "mira");
        return spools.spool(id).orElseThrow();
    }

    private static MockHttpServletRequestBuilder hours(String monday, String special) {
        return send("/stores/lab/hours").param("MONDAY", monday).param("TUESDAY", "10:00-20:00").param("special", special);
    }

    @Test
    void what_a_print_costs_is_kept_with_the_lab() throws Exception {
        Lab lab = inventory.lab();
        Tariff tariff = new Tariff(1.2, 0.01, 0.8, 0.35, 20, 10, 15, 100, 5, 0.15, 0.2, 0.19, 0.05, 0,
                Map.of("Friends of the house", 0.8));
        mvc.perform(labForm(TariffFields.values(tariff))).andExpect(redirectedUrl("/stores"));
        assertThat(inventory.lab().tariff()).isEqualTo(tariff);
        assertThat(inventory.lab().keeping()).isEqualTo(new Keeping(365, 180, 0, 3, 30));
        mvc.perform(open("/stores")).andExpect(content().string(
                containsString("models are kept for 365 days, photos for 180 days, members for good")));
        inventory.change(inventory.lab(), lab, "mira");
        Map<String, String> dear = TariffFields.values(tariff);
        dear.put("vat", "190");
        mvc.perform(labForm(dear)).andExpect(content().string(containsString("VAT must be between 0 and 100 %; 190 was given.")));
        assertThat(inventory.lab().tariff()).isEqualTo(lab.tariff());
        dear.put("rates", "Students half");
        mvc.perform(labForm(dear)).andExpect(content().string(containsString("such as “Students 80”; “Students half” was given.")));
    }

    @Test
    void the_own_start_of_a_printer_is_kept_when_it_can_be_carried_out() throws Exception {
        mvc.perform(printerForm("/stores/printers/old", "Old faithful", "").param("ownStart", "M190 S{bed}\nM109 S{nozzle}\nG28\nM900 K0.1")
                .param("ownEnd", "M104 S0")).andExpect(redirectedUrl("/stores"));
        assertThat(inventory.printer("old").orElseThrow().printer().ownWay().end()).isEqualTo("M104 S0");
        mvc.perform(open("/stores/printers/old")).andExpect(content().string(containsString("M109 S{nozzle}")));
        mvc.perform(printerForm("/stores/printers/old", "Old faithful", "").param("ownStart", "M109 S320\nG1 X?"))
                .andExpect(content().string(containsString("heats the nozzle to 320 °C; Old faithful allows 260 °C.")))
                .andExpect(content().string(containsString("line 2")));
        assertThat(inventory.printer("old").orElseThrow().printer().ownWay().start()).contains("{nozzle}");
    }

    private static MockHttpServletRequestBuilder firstForm(String name, String manner) {
        return send("/stores/first").param("name", name).param("width", "180").param("depth", "170").param("height", "160").param("bore", "0.6").param("filament", "1.75")
                .param("maxNozzleC", "260").param("maxBedC", "100").param("usedBy", "EVERYBODY").param("manner", manner).param("materialId", "pla").param("colour", "moss")
                .param("remainingG", "640").param("pricePerKg", "22").param("token", UUID.randomUUID().toString());
    }

    @Test
    void a_first_printer_is_made_of_what_can_be_measured_and_seen_and_its_reel_is_in_it() throws Exception {
        mvc.perform(firstForm("Yard bench", "leisurely")).andExpect(content().string(allOf(containsString("Choose how it goes about its work."), containsString("Yard bench"),
                containsString("moss"))));
        mvc.perform(firstForm("Yard bench", "BRISK")).andExpect(redirectedUrl("/counter"));
        StockPrinter made = inventory.printer("yard-bench").orElseThrow();
        assertThat(made.printer().bed().depthMm()).isEqualTo(170);
        assertThat(made.printer().nozzle()).isEqualTo(new Nozzle(0.6, false));
        assertThat(made.printer().kinematics().accelerationMmS2()).isEqualTo(3000);
        assertThat(made.printer().materialIds()).contains("pla", "petg").doesNotContain("abs");
        assertThat(spools.shelf()).filteredOn(spool -> "yard-bench".equals(spool.loadedIn())).singleElement()
                .satisfies(spool -> assertThat(spool.spool().remainingG()).isEqualTo(640));
    }

    private static MockHttpServletRequestBuilder labForm(Map<String, String> tariff) {
        MockHttpServletRequestBuilder form = send("/stores/lab/settings").param("name", "Harbour Street Workshop")
                .param("currency", "EUR").param("limitMb", "200").param("keepModels", "365")
                .param("keepPhotos", "180").param("keepMembers", "0").param("fairGrams", "500").param("fairHours", "20")
                .param("trinketMinutes", "20").param("trinketCm3", "1").param("reserveG", "5").param("remindDays", "3").param("shelfDays", "30");
        tariff.forEach(form::param);
        return form;
    }

    private MockHttpServletRequestBuilder printerForm(String address, String name, String zones) {
        long nozzle = address.endsWith("old") ? inventory.printer("old").orElseThrow().nozzleId()
                : inventory.add(new Nozzle(0.4, false), "", "", 0, "mira");
        return send(address).param("name", name).param("nozzleId", Long.toString(nozzle)).param("wattsHeating", "250").param("wattsPrinting", "100").param("width", "220").param("depth", "220")
                .param("height", "250").param("filamentMm", "1.75").param("maxNozzleC", "260").param("maxBedC", "100")
                .param("keepOut", zones).param("maxSpeed", "180").param("acceleration", "1000")
                .param("cornerSpeed", "8").param("zSpeed", "10").param("maxFlow", "11").param("narrowestGap", "0.4").param("longestBridge", "12").param("raftAlways", "on").param("retractionMm", "1")
                .param("retractionSpeed", "40").param("xSpeed", "400").param("ySpeed", "300").param("filamentSpeed", "60")
                .param("xAcceleration", "3000").param("yAcceleration", "1500").param("zAcceleration", "80")
                .param("filamentAcceleration", "2500").param("lookAhead", "32").param("movesPerS", "600")
                .param("pressureS", "0.04").param("changeS", "95").param("bedCPerS", "0.25").param("nozzleCPerS", "2.5")
                .param("homingS", "25").param("levellingS", "120").param("purgeS", "20").param("purgeMm3", "60")
                .param("flowS", "90").param("pictureS", "0").param("endS", "5").param("materialId", "pla");
    }
}
