/**
 * Takes files over the counter: hand-overs from uploads and archives, what waits for a decision, for coordinators and helpers.
 * It stores and measures what comes in, and opens tickets for it.
 */
@NullMarked
package fabbrica.web.counter;

import org.jspecify.annotations.NullMarked;
