/** Which loose image belongs to which channel of which material. */
package ferry.stone.core.texture.match;
