/** Wavefront OBJ and MTL: text meshes and their materials. */
package ferry.stone.core.format.obj;
