/**
 * What the lab owns and when it is open: printers, nozzles, materials, spools and their movements, maintenance, calendar, house
 * policy. For all places that plan or judge.
 */
@NullMarked
package fabbrica.web.stores;

import org.jspecify.annotations.NullMarked;
