package fabbrica.web.machine;

import fabbrica.core.units.OutOfRange;
import org.jspecify.annotations.Nullable;

/**
 * Where a printer's machine is reached.
 *
 * @param cameraPort of a camera over its bed, on the same host; null when it has none
 * @param uuid       by which it answered first; empty as long as it never has
 * @param calls      what it calls itself; so too
 */
public record MachineAddress(String printerId, String host, int port, @Nullable Integer cameraPort, String uuid, String calls) {

    public MachineAddress {
        if (host.isBlank()) {
            throw new OutOfRange("Say at which host the machine answers.");
        }
        OutOfRange.check("Port", port, 1, 65_535, "");
        if (cameraPort != null) {
            OutOfRange.check("Port of the camera", cameraPort, 1, 65_535, "");
        }
    }
}
