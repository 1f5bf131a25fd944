/**
 * Measures a part and judges what was measured: soundness, thickness, overhangs, islands, stand, poses. From a mesh; for
 * verdicts and plans.
 */
@NullMarked
package fabbrica.core.inspect;

import org.jspecify.annotations.NullMarked;
