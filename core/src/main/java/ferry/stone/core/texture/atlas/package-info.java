/** Images of several materials in one. */
package ferry.stone.core.texture.atlas;
