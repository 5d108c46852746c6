/** What all readers of a stage share: what its prims say, their values and primvars. */
package ferry.stone.core.format.usd.read.stage;
