package fabbrica.web.machine;

/**
 * A machine has begun with a plate's file; published in the transaction in which that is written down, for whoever keeps runs.
 *
 * @param by the name by which whoever confirmed the clear plate signs in
 */
public record Began(String file, long plateId, String by) {
}
