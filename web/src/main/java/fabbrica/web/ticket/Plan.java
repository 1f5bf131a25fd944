package fabbrica.web.ticket;

import fabbrica.core.recipe.Recipe;
import fabbrica.core.recipe.StartingPoint;

/**
 * How somebody means to print a ticket, not settled yet.
 *
 * @param printerId empty when none is chosen
 * @param spoolId   null when none is chosen
 */
public record Plan(StartingPoint start, Recipe recipe, String printerId, Long spoolId) {
}
