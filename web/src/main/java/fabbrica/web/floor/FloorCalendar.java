package fabbrica.web.floor;

import fabbrica.core.schedule.Schedule.Slot;
import fabbrica.web.plan.LaidPlate;
import java.time.Instant;
import java.util.List;
import java.util.stream.Collectors;
import net.fortuna.ical4j.model.Calendar;
import net.fortuna.ical4j.model.component.VEvent;
import net.fortuna.ical4j.model.property.Description;
import net.fortuna.ical4j.model.property.Location;
import net.fortuna.ical4j.model.property.Uid;

/**
 * What prints and what is planned as a calendar (RFC 5545, by ical4j): an event from start to end, named by printer and tickets.
 * Names of members and models are not in it: the address is all that keeps it from strangers.
 */
final class FloorCalendar {

    private FloorCalendar() {
    }

    static String of(FloorPlan plan, List<Run> running, String lab) {
        Calendar calendar = new Calendar().withProdId("-//Fabbrica//Floor plan//EN").withDefaults().getFluentTarget();
        for (Run run : running) {
            calendar = calendar.withComponent(event("run-" + run.id(), run.startedAt(), run.expectedEnd(), "prints", run.printerName(),
                    run.tickets(), lab)).getFluentTarget();
        }
        for (Slot slot : plan.schedule().slots()) {
            LaidPlate plate = plan.plate(slot.plate());
            calendar = calendar.withComponent(event("plate-" + plate.id(), slot.start(), slot.end(), "planned",
                    plan.printer(slot.machine()).name(), plate.tickets(), lab))
                    .getFluentTarget();
        }
        return calendar.toString();
    }

    private static VEvent event(String id, Instant start, Instant end, String state, String printer, List<Long> tickets, String lab) {
        String numbers = tickets.stream().map(ticket -> "no. " + ticket).collect(Collectors.joining(", "));
        VEvent event = new VEvent(start, end, "%s: %s".formatted(printer, numbers));
        event.add(new Uid(id + "@fabbrica"));
        event.add(new Location(lab));
        event.add(new Description(state));
        return event;
    }
}
