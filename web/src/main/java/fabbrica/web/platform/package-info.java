/** What all places stand on: works, live pages, forms, meshes and inspections, how moments, numbers and drawings are written. */
@NullMarked
package fabbrica.web.platform;

import org.jspecify.annotations.NullMarked;
