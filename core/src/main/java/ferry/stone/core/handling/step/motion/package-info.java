/** Steps on what moves: caches and clips. */
package ferry.stone.core.handling.step.motion;
