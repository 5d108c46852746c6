/** What readers of scenes over time share: places that move, and the clip of a file. */
package ferry.stone.core.format.motion;
