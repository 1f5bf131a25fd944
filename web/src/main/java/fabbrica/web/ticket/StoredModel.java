package fabbrica.web.ticket;

import fabbrica.core.mesh.io.ModelFormat;
import java.util.Objects;
import org.jspecify.annotations.Nullable;

/**
 * A model file on a ticket.
 *
 * @param sha256     null when its file is no longer kept
 * @param revisionOf the model as it came, when this one was made from it; else null
 * @param madeBy     how it was made from it; empty for a model as it came
 * @param accompanied whether notes or pictures came with it in an archive
 */
public record StoredModel(long id, String name, @Nullable String sha256, long bytes, ModelFormat format,
                          @Nullable Long revisionOf, String madeBy, boolean accompanied) {

    public boolean isKept() {
        return sha256 != null;
    }

    /** The hash of its file, which is kept. */
    public String kept() {
        return Objects.requireNonNull(sha256);
    }
}
