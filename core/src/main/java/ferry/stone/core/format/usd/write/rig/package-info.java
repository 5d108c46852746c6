/** Skeletons of a stage and what they move. */
package ferry.stone.core.format.usd.write.rig;
