package fabbrica.web.machine;

import fabbrica.core.run.Command;
import java.io.Closeable;

/** The way to one machine. What it is told may be done later or never; what comes of it comes back as a {@link fabbrica.core.run.MachineEvent}. */
interface MachineLink extends Closeable {

    /** Returns at once. What cannot be passed on now is refused, never kept for later. */
    void send(Command command);

    @Override
    void close();
}
