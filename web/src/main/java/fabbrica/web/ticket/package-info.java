/**
 * Tickets from hand-over to hand-out: the request, the model with its revisions, the verdict on it. For every place that works
 * on a ticket; its page is put together from their sections.
 */
@NullMarked
package fabbrica.web.ticket;

import org.jspecify.annotations.NullMarked;
