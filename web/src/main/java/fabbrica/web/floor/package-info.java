/**
 * What is printed now and next: runs, their outcomes copy by copy, the timeline. From plates that wait, for whoever walks past
 * the machines.
 */
@NullMarked
package fabbrica.web.floor;

import org.jspecify.annotations.NullMarked;
