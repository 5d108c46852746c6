/** Carrying a whole scene from one frame to another. */
package ferry.stone.core.geometry.frame;
