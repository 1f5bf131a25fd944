/** From a part and a recipe to layers of typed paths. For motion, drawings and files. */
@NullMarked
package fabbrica.core.toolpath;

import org.jspecify.annotations.NullMarked;
