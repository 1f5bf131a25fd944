package fabbrica.printsim;

/**
 * Who a machine says it is.
 *
 * @param uuid  its own, for as long as it lives
 * @param hashes whether it reads back the hash of a file on its card
 */
public record Identity(String uuid, String name, boolean hashes) {
}
