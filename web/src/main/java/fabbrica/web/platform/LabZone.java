package fabbrica.web.platform;

import java.time.ZoneId;

/** The zone of the clock on the lab's wall. */
public interface LabZone {

    ZoneId zone();
}
