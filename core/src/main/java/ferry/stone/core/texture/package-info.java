/** Images and material formulas. Knows scenes, not formats of scenes. */
package ferry.stone.core.texture;
