/** OBJ and MTL from scenes, after one plan that forecast and proof share. */
package ferry.stone.core.format.obj.write;
