/** Steps on skins and morph targets. */
package ferry.stone.core.handling.step.rig;
