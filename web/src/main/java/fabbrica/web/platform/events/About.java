package fabbrica.web.platform.events;

import org.jspecify.annotations.Nullable;

/** What something happened to. */
public record About(@Nullable Long ticket, @Nullable Long run, @Nullable Long plate, @Nullable Long spool, @Nullable Long nozzle, @Nullable String printer,
                    @Nullable Long member, @Nullable Long account) {

    public static final About NOTHING = new About(null, null, null, null, null, null, null, null);

    public static About ticket(long id) {
        return new About(id, null, null, null, null, null, null, null);
    }

    public static About spool(long id) {
        return new About(null, null, null, id, null, null, null, null);
    }

    public static About nozzle(long id) {
        return new About(null, null, null, null, id, null, null, null);
    }

    public static About printer(String id) {
        return new About(null, null, null, null, null, id, null, null);
    }

    public static About member(long id) {
        return new About(null, null, null, null, null, null, id, null);
    }

    public static About account(long id) {
        return new About(null, null, null, null, null, null, null, id);
    }

    public About on(String printerId) {
        return new About(ticket, run, plate, spool, nozzle, printerId, member, account);
    }

    public About laidOn(long plateId) {
        return new About(ticket, run, plateId, spool, nozzle, printer, member, account);
    }

    public About inRun(long id) {
        return new About(ticket, id, plate, spool, nozzle, printer, member, account);
    }

    public About from(long spoolId) {
        return new About(ticket, run, plate, spoolId, nozzle, printer, member, account);
    }
}
