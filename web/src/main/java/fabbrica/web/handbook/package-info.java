/** What the lab's words mean: defects and starting points, for everybody. */
@NullMarked
package fabbrica.web.handbook;

import org.jspecify.annotations.NullMarked;
