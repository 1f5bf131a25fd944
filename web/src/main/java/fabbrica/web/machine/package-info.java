/** Links to machines: what is said to them and what they say, how each stands, and what becomes of a run meanwhile; for the Floor and whoever stands beside it. */
@NullMarked
package fabbrica.web.machine;

import org.jspecify.annotations.NullMarked;
