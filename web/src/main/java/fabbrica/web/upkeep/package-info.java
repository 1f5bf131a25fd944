/**
 * Looking after a lab's data: backups while the server runs, coming back from one, and checking that everything named is
 * there and as it was. Used from the shell, and every night by the server.
 */
@NullMarked
package fabbrica.web.upkeep;

import org.jspecify.annotations.NullMarked;
