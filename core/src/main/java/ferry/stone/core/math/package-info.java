/** Units, axes, frames and boxes, on JOML. Knows nothing of scenes. */
package ferry.stone.core.math;
