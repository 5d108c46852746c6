/**
 * Pictures without a graphics card: a z-buffer, one light, textures, both sides of faces. The same
 * scene gives the same pixels on every machine.
 */
package ferry.stone.core.view.picture;
