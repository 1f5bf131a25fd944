package fabbrica.web.upkeep;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.tuple;
import static org.assertj.core.api.Assertions.within;

import fabbrica.core.recipe.Nozzle;
import fabbrica.core.schedule.Calendar;
import fabbrica.web.FabbricaApplication;
import fabbrica.web.floor.Run;
import fabbrica.web.floor.RunFilter;
import fabbrica.web.floor.Runs;
import fabbrica.web.plan.LaidPlate;
import fabbrica.web.plan.Plan;
import fabbrica.web.plan.Plans;
import fabbrica.web.plan.Plates;
import fabbrica.web.platform.events.Event;
import fabbrica.web.platform.events.Events;
import fabbrica.web.platform.storage.DataFolder;
import fabbrica.web.stores.Inventory;
import fabbrica.web.stores.Spools;
import fabbrica.web.stores.StockPrinter;
import fabbrica.web.stores.StockSpool;
import fabbrica.web.ticket.Ticket;
import fabbrica.web.ticket.Tickets;
import java.io.IOException;
import java.io.InputStream;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Instant;
import java.time.LocalDate;
import java.time.temporal.ChronoUnit;
import java.util.List;
import java.util.stream.Stream;
import java.util.zip.GZIPInputStream;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.springframework.context.ConfigurableApplicationContext;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.jdbc.datasource.DriverManagerDataSource;
import tools.jackson.databind.ObjectMapper;

/** A data folder of the version before, made by its demo: what stands in it is the same after it was brought up to date. */
class FormatEightTest {

    private static JdbcClient before;
    private static ConfigurableApplicationContext lab;

    @BeforeAll
    static void migrate(@TempDir Path folder) throws IOException {
        Path old = folder.resolve("old.db"), data = Files.createDirectories(folder.resolve("data"));
        try (InputStream packed = new GZIPInputStream(FormatEightTest.class.getResourceAsStream("/lab-of-format-8.db.gz"))) {
            Files.copy(packed, old);
        }
        Files.copy(old, DataFolder.database(data));
        before = JdbcClient.create(new DriverManagerDataSource("jdbc:sqlite:" + old));
        lab = FabbricaApplication.application().run("--server.port=0", "--fabbrica.data=" + data);
    }

    @AfterAll
    static void close() {
        lab.close();
    }

    @Test
    void the_database_is_sound() {
        JdbcClient after = the(JdbcClient.class);
        assertThat(after.sql("pragma integrity_check").query(String.class).list()).containsExactly("ok");
        assertThat(after.sql("pragma foreign_key_check").query().listOfRows()).isEmpty();
        assertThat(after.sql("select name from pragma_table_list where type = 'table' and not strict and name not like 'sqlite%' and name not like 'flyway%'")
                .query(String.class).list()).isEmpty();
    }

    @Test
    void every_step_of_every_ticket_is_still_told_as_it_was() {
        before.sql("select id from ticket").query(Long.class).list().forEach(ticket -> assertThat(the(Events.class).ofTicket(ticket))
                .extracting(event -> event.at().truncatedTo(ChronoUnit.MILLIS), Event::by, Event::what, Event::why)
                .isEqualTo(before.sql("select * from ticket_event where ticket_id = ? order by id").params(ticket)
                        .query((row, n) -> tuple(rounded(row.getString("at")), row.getString("who"), row.getString("what"), row.getString("why")))
                        .list()));
    }

    @Test
    void every_run_keeps_its_times_its_grams_and_its_cost() {
        for (Run run : the(Runs.class).runs(RunFilter.ALL, null, 1000)) {
            before.sql("select * from run where id = ?").params(run.id()).query(row -> {
                assertThat(run.startedAt()).isEqualTo(rounded(row.getString("started_at")));
                assertThat(run.startedBy()).isEqualTo(row.getString("started_by"));
                assertThat(run.cost() == null ? null : run.cost().toString()).isEqualTo(row.getString("cost"));
                if (run.endedAt() != null) {
                    assertThat(run.endedAt()).isEqualTo(rounded(row.getString("ended_at")));
                    assertThat(run.realG()).isEqualTo(row.getDouble("real_g"));
                }
            });
        }
        assertThat(the(Runs.class).runs(RunFilter.ALL, null, 1000)).hasSize(before.sql("select count(*) from run").query(Integer.class).single());
    }

    @Test
    void every_spool_holds_what_it_held_and_its_movements_say_why() {
        List<StockSpool> spools = Stream.concat(the(Spools.class).shelf().stream(), the(Spools.class).offShelf(Integer.MAX_VALUE, 1000).stream())
                .toList();
        assertThat(spools).hasSize(before.sql("select count(*) from spool").query(Integer.class).single());
        for (StockSpool spool : spools) {
            before.sql("select * from spool where id = ?").params(spool.id()).query(row -> {
                assertThat(spool.spool().remainingG()).isCloseTo(row.getDouble("remaining_g"), within(0.0006));
                assertThat(spool.netG()).isEqualTo(row.getDouble("initial_g"));
                assertThat(spool.spool().pricePerKg()).isEqualTo(row.getDouble("price_per_kg"));
                assertThat(spool.openedOn()).isEqualTo(row.getString("opened_on") == null ? null : LocalDate.parse(row.getString("opened_on")));
            });
        }
        int ended = before.sql("select count(*) from run where state <> 'RUNNING'").query(Integer.class).single();
        assertThat(the(JdbcClient.class).sql("select count(*) from spool_movement where run_id is not null").query(Integer.class).single()).isEqualTo(ended);
    }

    @Test
    void every_ticket_is_planned_as_it_was() {
        for (long id : before.sql("select id from ticket where recipe is not null").query(Long.class).list()) {
            Ticket ticket = the(Tickets.class).ticket(id);
            Plan plan = the(Plans.class).plan(ticket.planId());
            before.sql("select * from ticket where id = ?").params(id).query(row -> {
                assertThat(the(ObjectMapper.class).readTree(the(ObjectMapper.class).writeValueAsString(plan.recipe())))
                        .isEqualTo(the(ObjectMapper.class).readTree(row.getString("recipe")));
                assertThat(plan.printerId()).isEqualTo(row.getString("printer_id"));
                assertThat(the(Plates.class).openOf(id)).filteredOn(plate -> plate.state() == LaidPlate.State.QUEUED)
                        .allSatisfy(plate -> assertThat(plate.promise().totalS()).isEqualTo(row.getDouble("promised_s")));
            });
        }
    }

    @Test
    void the_lab_opens_when_it_did_and_a_nozzle_that_was_in_several_printers_is_several() {
        Calendar calendar = the(Inventory.class).calendar();
        assertThat(calendar.weekdays()).hasSize(7).allSatisfy((day, hours) -> assertThat(hours).containsExactly(Calendar.Hours.of(10, 20)));
        assertThat(the(Inventory.class).printers()).extracting(StockPrinter::nozzleId).doesNotHaveDuplicates();
        assertThat(the(Inventory.class).printers()).extracting(printer -> printer.printer().nozzle()).isEqualTo(before.sql("""
                select n.* from printer p join nozzle n on n.id = p.nozzle_id order by p.name""").query((row, n) ->
                new Nozzle(row.getDouble("bore_mm"), row.getBoolean("hardened"))).list());
        assertThat(the(Inventory.class).lab().tariff().perKwh()).isEqualTo(0.32);
        assertThat(the(Inventory.class).printers().getFirst().cost().wattsHeating()).isEqualTo(250);
    }

    private static Instant rounded(String moment) {
        return Instant.parse(moment).plusNanos(500_000).truncatedTo(ChronoUnit.MILLIS);
    }

    private static <T> T the(Class<T> bean) {
        return lab.getBean(bean);
    }
}
