/** Steps on faces, vertices, normals, UVs and materials. */
package ferry.stone.core.handling.step.surface;
