/**
 * How tickets are printed: plans, plates, promises, the trade table, layers and files. From parts, printers and spools, for
 * whoever plans and for the Floor.
 */
@NullMarked
package fabbrica.web.plan;

import org.jspecify.annotations.NullMarked;
