/** PLY: one list of vertices and one of faces. */
package ferry.stone.core.format.ply;
