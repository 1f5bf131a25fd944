package fabbrica.web.platform;

import java.util.function.Function;

/** Where something stands that is being worked out. */
public sealed interface Standing<V> {

    record Done<V>(V value) implements Standing<V> {
    }

    /** @param fraction 0 to 1 */
    record Working<V>(long job, double fraction) implements Standing<V> {
    }

    record Failed<V>(String sentence) implements Standing<V> {
    }

    /** What is made of it once it is done. */
    default <W> Standing<W> map(Function<V, W> made) {
        return switch (this) {
            case Done<V>(V value) -> new Done<>(made.apply(value));
            case Working<V>(long job, double fraction) -> new Working<>(job, fraction);
            case Failed<V>(String sentence) -> new Failed<>(sentence);
        };
    }
}
