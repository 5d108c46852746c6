/** UV islands, their placing and overlaps; tangents. */
package ferry.stone.core.geometry.uv;
