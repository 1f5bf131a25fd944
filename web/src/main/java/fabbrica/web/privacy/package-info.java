/**
 * What the lab keeps of people, and for how long: members who are forgotten, what goes by itself after the lab's time, and
 * the export that anyone can have of their own data.
 */
@NullMarked
package fabbrica.web.privacy;

import org.jspecify.annotations.NullMarked;
