/** How good plans are and how soon they come, against a solver that proves and one that searches. */
@NullMarked
package fabbrica.bench.schedule;

import org.jspecify.annotations.NullMarked;
