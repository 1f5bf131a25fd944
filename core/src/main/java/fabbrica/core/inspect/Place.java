package fabbrica.core.inspect;

/**
 * Where a finding is seen, in the part's own millimetres.
 *
 * @param label what is there, with its size: "gap 0.18 mm"
 */
public record Place(double x, double y, double z, String label) {
}
