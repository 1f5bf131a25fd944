/** Measures the core: JMH benchmarks, malformed files by the thousand, many people at once. */
@NullMarked
package fabbrica.bench;

import org.jspecify.annotations.NullMarked;
