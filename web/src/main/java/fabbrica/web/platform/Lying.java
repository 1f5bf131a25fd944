package fabbrica.web.platform;

import fabbrica.core.mesh.model.Rotation;

/**
 * A stored model as it lies on the bed.
 *
 * @param factor from the file's numbers to millimetres, scale included
 */
public record Lying(String sha256, double factor, Rotation rotation) {

    public Lying turned(Rotation other) {
        return new Lying(sha256, factor, other);
    }
}
