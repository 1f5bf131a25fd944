/**
 * The door: who may do what, how large and how slow a request may be, and how many hands there are for all of them. What is
 * not let in is refused before it is read.
 */
@NullMarked
package fabbrica.web.platform.gate;

import org.jspecify.annotations.NullMarked;
