/**
 * Point caches of the two plain kinds: positions of a mesh's vertices, sample after sample. MDD:
 * high byte first; int32 samples, int32 points, float32 seconds of each sample, then samples ×
 * points × 3 float32. PC2: {@code POINTCACHE2} and a zero, then low byte first; int32 version 1,
 * int32 points, float32 first frame, float32 frames a sample, int32 samples, then the same.
 *
 * <p>Neither knows its unit, its axes or its mesh: number and order of the points must be those of
 * the mesh. Both layouts as commonly published; PC2 states frames, so a rate has to be known.
 */
package ferry.stone.core.format.cache;
