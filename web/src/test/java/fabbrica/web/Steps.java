package fabbrica.web;

import static org.springframework.security.test.web.servlet.request.SecurityMockMvcRequestPostProcessors.csrf;
import static org.springframework.security.test.web.servlet.request.SecurityMockMvcRequestPostProcessors.user;
import static org.springframework.test.web.servlet.request.MockMvcRequestBuilders.get;
import static org.springframework.test.web.servlet.request.MockMvcRequestBuilders.post;

import fabbrica.core.mesh.model.Mesh;
import fabbrica.core.recipe.Nozzle;
import fabbrica.core.recipe.Printer;
import fabbrica.core.recipe.Recipe;
import fabbrica.core.recipe.StartingPoint;
import fabbrica.web.account.Role;
import fabbrica.web.counter.HandOver;
import fabbrica.web.counter.Intake;
import fabbrica.web.floor.RunEnd.CopyEnd;
import fabbrica.web.floor.RunEnd.Outcome;
import fabbrica.web.floor.RunEnd;
import fabbrica.web.floor.Runs;
import fabbrica.web.floor.Took.Source;
import fabbrica.web.floor.Took;
import fabbrica.web.plan.Plan;
import fabbrica.web.plan.PlanEntry;
import fabbrica.web.plan.Plans;
import fabbrica.web.plan.Plates;
import fabbrica.web.platform.storage.FileStore;
import fabbrica.web.stores.Inventory;
import fabbrica.web.stores.SpoolEntry;
import fabbrica.web.stores.Spools;
import fabbrica.web.stores.StockPrinter;
import fabbrica.web.ticket.Purpose;
import fabbrica.web.ticket.Ticket.Request;
import fabbrica.web.ticket.Ticket;
import fabbrica.web.ticket.TicketState;
import fabbrica.web.ticket.Tickets;
import java.io.ByteArrayInputStream;
import java.io.IOException;
import java.io.UncheckedIOException;
import java.util.List;
import java.util.UUID;
import org.jspecify.annotations.Nullable;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.test.web.servlet.request.MockHttpServletRequestBuilder;
import org.springframework.transaction.support.TransactionTemplate;

/** Steps a ticket takes before a test begins, and requests as the coordinator's browser sends them. */
public class Steps {

    private final Intake intake;
    private final Tickets tickets;
    private final Plans plans;
    private final Plates plates;
    private final Runs runs;
    private final Inventory inventory;
    private final Spools spools;
    private final FileStore files;
    private final JdbcClient jdbc;
    private final TransactionTemplate transaction;

    Steps(Intake intake, Tickets tickets, Plans plans, Plates plates, Runs runs, Inventory inventory, Spools spools,
          FileStore files, JdbcClient jdbc, TransactionTemplate transaction) {
        this.intake = intake;
        this.tickets = tickets;
        this.plans = plans;
        this.plates = plates;
        this.runs = runs;
        this.inventory = inventory;
        this.spools = spools;
        this.files = files;
        this.jdbc = jdbc;
        this.transaction = transaction;
    }

    /** Closes a ticket and lets its model go, as happens when it has been kept long enough. @return the file that was */
    public String forgetModel(long ticketId) {
        Ticket ticket = tickets.ticket(ticketId);
        if (ticket.state() == TicketState.PRINTED) {
            tickets.handOut(ticket, "mira");
        } else {
            tickets.withdraw(ticket, "not needed any more", "mira");
        }
        String file = ticket.part().sha256();
        transaction.executeWithoutResult(status -> jdbc.sql("update model set sha256 = null where id = ?").params(ticket.model().id()).update());
        files.release(file);
        return file;
    }

    public static MockHttpServletRequestBuilder open(String address) {
        return open(address, "mira", Role.COORDINATOR);
    }

    public static MockHttpServletRequestBuilder open(String address, String username, Role role) {
        return get(address).with(user(username).roles(role.name()));
    }

    public static MockHttpServletRequestBuilder send(String address) {
        return post(address).with(user("mira").roles("COORDINATOR")).with(csrf());
    }

    /** A printer like the demo's "door", so that tests do not wait for each other's runs. */
    public String printer() {
        String id = "test-" + UUID.randomUUID();
        Printer door = inventory.printer("door").orElseThrow().printer();
        long nozzle = inventory.add(new Nozzle(0.4, false), "", "test", 0, "mira");
        inventory.add(StockPrinter.usual(new Printer(id, "Test bench", door.bed(), door.nozzle(), door.kinematics(),
                door.preparation(), door.filamentMm(), door.enclosed(), door.maxNozzleC(), door.maxBedC(),
                door.materialIds()), nozzle), "mira");
        return id;
    }

    public long spool(String material, double grams) {
        return spools.add(SpoolEntry.fresh(material, "test white", grams, 30, null), grams, "mira");
    }

    public long taken(Mesh mesh) {
        return taken(Files3d.stl(mesh));
    }

    /** A ticket of its own, though the same file may have come before. */
    public long taken(byte[] stl) {
        try {
            HandOver taken = intake.take("part.stl", stl.length, new ByteArrayInputStream(stl), UUID.randomUUID().toString(), "mira");
            HandOver.Piece piece = taken.pieces().getFirst();
            return piece.ticketId() != null ? piece.ticketId() : intake.choose(taken.id(), List.of(piece.modelId()), "mira").getFirst();
        } catch (IOException e) {
            throw new UncheckedIOException(e);
        }
    }

    public long accepted(Mesh mesh, int quantity) {
        long id = taken(mesh);
        tickets.accept(tickets.ticket(id), new Request(null, Purpose.EVERYDAY, null, "", "", quantity, "", ""), "mira");
        return id;
    }

    public Recipe everyday() {
        Printer door = inventory.printer("door").orElseThrow().printer();
        return StartingPoint.DAILY_BREAD.recipe(door.nozzle(), door.kinematics());
    }

    /** @return the first of the plates its copies lie on */
    public long queued(Mesh mesh, int quantity, String printer, long spool) {
        return queue(accepted(mesh, quantity), printer, spool);
    }

    /** @return the first of the plates */
    public long queue(long id, String printer, long spool) {
        return plates.queue(tickets.ticket(id), plan(printer, spool), "mira").getFirst();
    }

    public Plan plan(String printer, @Nullable Long spool) {
        return plans.keep(new PlanEntry(StartingPoint.DAILY_BREAD, everyday(), printer, spool, false));
    }

    public long ticketOf(long plate) {
        return plates.plate(plate).tickets().getFirst();
    }

    public long started(long plate) {
        return runs.start(plates.plate(plate), "mira").orElseThrow();
    }

    /** Ends a run, all its copies alike. */
    public void end(long run, Outcome outcome, double minutes, double grams) {
        runs.end(run, end(run, outcome, minutes, grams, "test"), "mira");
    }

    /** With figures that are made up, and so teach nothing about the printer. */
    public RunEnd end(long run, Outcome outcome, double minutes, double grams, String cause) {
        return new RunEnd(new Took(minutes, Source.ESTIMATE, grams, Source.ESTIMATE), plates.plate(runs.run(run).plateId()).copies().stream().map(copy -> new CopyEnd(copy.id(), outcome, "", null))
                .toList(), List.of(), cause, "", null, null);
    }
}
