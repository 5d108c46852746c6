/**
 * Pairs the corners of a mesh with those of the landed one, and says how far their values lie
 * apart.
 */
package ferry.stone.core.proof.corner;
