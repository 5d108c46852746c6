/** STL: triangles alone. */
package ferry.stone.core.format.stl;
