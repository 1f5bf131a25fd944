/** A crowded lab whose simulated machines print for minutes on end while pages are open and the server is killed. */
@NullMarked
package fabbrica.bench.soak;

import org.jspecify.annotations.NullMarked;
