/** Point caches seen through a change of frame or of vertices. */
package ferry.stone.core.geometry.cache;
