package fabbrica.web.ticket;

import fabbrica.core.mesh.io.ModelFormat;

/**
 * A model made from another one, stored.
 *
 * @param madeBy how, as a sentence
 */
public record Revision(String name, String sha256, long bytes, ModelFormat format, String madeBy) {
}
