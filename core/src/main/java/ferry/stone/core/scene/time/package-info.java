/** What moves: clips of tracks, and caches of points. */
package ferry.stone.core.scene.time;
