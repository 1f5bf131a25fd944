/** A printer that is not there: it heats, levels, prints, cools and fails as one would, and answers on the line as one would; for demos and tests. */
@NullMarked
package fabbrica.printsim;

import org.jspecify.annotations.NullMarked;
