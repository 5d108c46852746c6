/** Scenes from OBJ and MTL. */
package ferry.stone.core.format.obj.read;
