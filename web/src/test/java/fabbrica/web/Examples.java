package fabbrica.web;

import fabbrica.core.mesh.model.Shapes;
import fabbrica.web.plan.SlicedFiles;
import fabbrica.web.ticket.Charges;
import fabbrica.web.ticket.Tickets;
import java.io.ByteArrayInputStream;
import java.io.IOException;
import java.io.UncheckedIOException;
import java.nio.charset.StandardCharsets;
import org.springframework.jdbc.core.simple.JdbcClient;

/** For the address of every page, one where there is something to see in the demo lab. */
public class Examples {

    private final JdbcClient jdbc;
    private final Steps steps;
    private final SlicedFiles sliced;
    private final Charges charges;
    private final Tickets tickets;

    Examples(JdbcClient jdbc, Steps steps, SlicedFiles sliced, Charges charges, Tickets tickets) {
        this.jdbc = jdbc;
        this.steps = steps;
        this.sliced = sliced;
        this.charges = charges;
        this.tickets = tickets;
    }

    /** The address with something that is there in place of every variable. */
    String of(String pattern) {
        String parcel = one("select max(id) from hand_over where name like 'box%'");
        String queued = one("select max(id) from plate where state = 'QUEUED'");
        String ticket = one("select max(ticket_id) from plate_copy where plate_id = " + queued);
        String run = one("select max(id) from run where state <> 'RUNNING'");
        return switch (pattern) {
            case "/floor/runs/{id}/end" -> "/floor/runs/" + one("select max(id) from run where state = 'RUNNING'") + "/end";
            case "/tickets/{id}/receipt" -> "/tickets/%s/receipt".formatted(paid());
            case "/floor/plates/{plate}/carried" -> "/floor/plates/%s/carried?printer=%s".formatted(queued, one("select printer_id from plan n join plate p on p.plan_id = n.id where p.id = " + queued));
            case "/wall/{key}", "/wall/{key}/floor.ics", "/floor/plates/{plate}/apart", "/floor/plates/{plate}/together" -> "/floor";
            case "/floor/start/{id}/sheet" -> "/floor/start/%s/sheet".formatted(queued);
            case "/floor/start/{id}/before" -> "/floor/start/%s/before".formatted(queued);
            case "/floor/start/{id}/label" -> "/floor/start/%s/label".formatted(queued);
            case "/floor/runs/{id}/photo", "/tickets/{id}/enclosed/{enclosure}", "/machines/{id}/picture" -> "/floor";
            default -> pattern.replace("/counter/hand-overs/{id}", "/counter/hand-overs/" + parcel)
                    .replace("{modelId}", one("select max(id) from model where sha256 is not null and hand_over_id = " + parcel))
                    .replace("/tickets/{id}", "/tickets/" + ticket).replace("{planId}", one("select plan_id from ticket where id = " + ticket))
                    .replace("/sections/{name}", "/sections/plan").replace("/trade/difference", "/trade/difference?first=a&second=b")
                    .replace("{number}", "0").replace("{format}", "stl").replace("{plate}", queued).replace("/plates/{id}", "/plates/" + queued)
                    .replace("/floor/start/{id}", "/floor/start/" + queued).replace("/floor/runs/{id}", "/floor/runs/" + run)
                    .replace("/counter/groups/{id}", "/counter/groups/" + one("select coalesce(max(id), 0) from ticket_group"))
                    .replace("/mine/{id}", "/mine/" + one("select max(t.id) from ticket t join account a on a.member_id = t.member_id and a.username = 'june' where t.state = 'QUEUED'"))
                    .replace("/floor/printers/{id}", "/floor/printers/door").replace("/members/{id}", "/members/1").replace("/stores/printers/{id}", "/stores/printers/door")
                    .replace("/stores/spools/{id}", "/stores/spools/1").replace("/stores/materials/{id}", "/stores/materials/pla")
                    .replace("/stores/nozzles/{id}", "/stores/nozzles/1").replace("/stores/keyholders/{id}", "/stores/keyholders/1").replace("/floor/leaves/{id}", "/floor/leaves/1")
                    .replace("/sliced/{file}", "/sliced/" + slicedFile(Long.parseLong(ticket))).replaceFirst("^(/sliced/\\d+/.*)", "$1?printer=door");
        };
    }

    private long paid() {
        long id = steps.ticketOf(steps.queued(Shapes.box(40, 40, 20), 1, steps.printer(), steps.spool("pla", 900)));
        charges.pay(tickets.ticket(id), "mira");
        return id;
    }

    private long slicedFile(long ticket) {
        byte[] gcode = "G28\nG1 X10 Y10 Z0.2 F3000\nG1 X50 Y10 E2 F1200\n".getBytes(StandardCharsets.US_ASCII);
        try {
            return sliced.take(ticket, "line.gcode", gcode.length, new ByteArrayInputStream(gcode), "statements").id();
        } catch (IOException e) {
            throw new UncheckedIOException(e);
        }
    }

    private String one(String query) {
        return jdbc.sql(query).query(String.class).single();
    }
}
