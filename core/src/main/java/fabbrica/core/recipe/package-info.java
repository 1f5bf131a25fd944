/** How something is printed, on what and of what: recipe, printer, nozzle, material, spool. For everything to the right of it. */
@NullMarked
package fabbrica.core.recipe;

import org.jspecify.annotations.NullMarked;
