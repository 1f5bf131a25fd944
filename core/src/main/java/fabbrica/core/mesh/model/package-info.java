/**
 * Triangles in space and what geometry asks of them: bounds, neighbours, trees, the nearest point. From vertices and corners, for
 * every reader and every measure.
 */
@NullMarked
package fabbrica.core.mesh.model;

import org.jspecify.annotations.NullMarked;
