/**
 * An invented workshop with its past, written anew at every start of a demo, and years of it for trying how the lab does when it
 * is old.
 */
@NullMarked
package fabbrica.web.demo;

import org.jspecify.annotations.NullMarked;
