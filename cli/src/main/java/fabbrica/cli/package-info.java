/** The same core from a shell: reads arguments and files, prints sentences or JSON. For people without the pages, and for scripts. */
@NullMarked
package fabbrica.cli;

import org.jspecify.annotations.NullMarked;
