/**
 * What happened in the lab: one append-only log of typed facts, from every step that changes something, for histories, the
 * outbox and whoever counts. Sentences are made when it is shown.
 */
@NullMarked
package fabbrica.web.platform.events;

import org.jspecify.annotations.NullMarked;
