/**
 * What readers of meshes share: faces with corners in a file's order, values that lie over them.
 */
package ferry.stone.core.format.mesh;
