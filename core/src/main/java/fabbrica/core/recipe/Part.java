package fabbrica.core.recipe;

import fabbrica.core.mesh.model.Rotation;

/**
 * A model as it is to lie on the bed.
 *
 * @param sha256 of the model's file
 * @param factor from the file's numbers to millimetres, scale included
 */
public record Part(String sha256, double factor, Rotation rotation) {

    public Part turned(Rotation other) {
        return new Part(sha256, factor, other);
    }

    public Part scaled(double by) {
        return new Part(sha256, factor * by, rotation);
    }
}
