/** Triangles: cutting polygons, drawing order, distances. */
package ferry.stone.core.geometry.triangle;
