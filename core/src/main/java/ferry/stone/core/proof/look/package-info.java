/** Compares materials, their images and the faces they are on. */
package ferry.stone.core.proof.look;
