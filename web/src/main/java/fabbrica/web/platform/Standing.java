package fabbrica.web.platform;

/** Where something stands that is being worked out. */
public sealed interface Standing<V> {

    record Done<V>(V value) implements Standing<V> {
    }

    /** @param fraction 0 to 1 */
    record Working<V>(long job, double fraction) implements Standing<V> {
    }

    record Failed<V>(String sentence) implements Standing<V> {
    }
}
