/** Lines, words and numbers of OBJ and MTL text. */
package ferry.stone.core.format.obj.raw;
