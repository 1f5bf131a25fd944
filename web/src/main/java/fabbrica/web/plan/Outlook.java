package fabbrica.web.plan;

import fabbrica.web.ticket.NextStep;
import org.jspecify.annotations.Nullable;

/**
 * What stands on a ticket's page wherever its plan is spoken of, so that all of it says the same.
 *
 * @param promise what it takes and when it is there, to end the verdict with; empty as long as nobody knows
 * @param result  the plan in a line
 * @param next    the step that the plan offers; null when it is another's
 */
record Outlook(String promise, String result, @Nullable NextStep next) {
}
