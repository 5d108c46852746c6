/** Algorithms on meshes, each citing its source. Knows scenes, not formats. */
package ferry.stone.core.geometry;
