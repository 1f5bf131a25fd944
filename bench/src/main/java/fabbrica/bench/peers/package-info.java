/** Whole processes of Fabbrica beside those of general-purpose tools that do part of the same work. */
@NullMarked
package fabbrica.bench.peers;

import org.jspecify.annotations.NullMarked;
