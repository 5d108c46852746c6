/** Skeletons of a stage, what they move, and blend shapes. */
package ferry.stone.core.format.usd.read.rig;
