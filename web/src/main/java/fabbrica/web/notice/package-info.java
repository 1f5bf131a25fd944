/**
 * What members are told: sentences made from what the outbox holds, delivered by mail where the lab has a post, and always to
 * be read on the pages. For members, the grown-ups who answer for minors, and whoever wonders what was told.
 */
@NullMarked
package fabbrica.web.notice;

import org.jspecify.annotations.NullMarked;

