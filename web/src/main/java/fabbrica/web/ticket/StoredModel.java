package fabbrica.web.ticket;

import fabbrica.core.inspect.Inspection;
import fabbrica.core.mesh.io.ModelFormat;

/**
 * A model file on a ticket.
 *
 * @param inspection in the file's own numbers
 */
public record StoredModel(long id, String name, String sha256, long bytes, ModelFormat format,
                          Inspection inspection) {
}
