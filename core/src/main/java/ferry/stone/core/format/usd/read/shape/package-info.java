/** Meshes, curves, points and solids of a stage, with what lies over them. */
package ferry.stone.core.format.usd.read.shape;
